import { useMutation, useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import type { FailedLetter, Running } from '../../contract/running.ts';
import { counted } from '../../core/counted.ts';
import { DAY } from '../../core/time/interval.ts';
import { formatNear } from '../../core/time/format.ts';
import {
  answerTo,
  callApi,
  errorText,
  Failure,
  useChanged,
  useMe,
  useNow,
  useShown,
} from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { Outline } from '../design/states.tsx';
import { KeepingForm } from './KeepingForm.tsx';
import { AdminFrame } from './AdminFrame.tsx';

/** Is everything well with Marmot, and if not, what is to be done? */
export function HealthView() {
  return (
    <AdminFrame>
      <Health />
    </AdminFrame>
  );
}

const EVERY_MS = 30_000;
/** A backup that is older is one to worry about. */
const OLD_BACKUP = 2 * DAY;

function Health() {
  useShown(['mailroom:all']);
  const { data, isPending, isError, error, refetch } = useQuery({
    ...answerTo('GET /api/administration/running'),
    refetchInterval: EVERY_MS,
  });
  return (
    <div className="grid max-w-3xl gap-6 px-4 py-4 md:px-6">
      {isPending && <Outline what="how Marmot fares" rows={6} />}
      {isError && <Failure error={error} retry={() => void refetch()} />}
      {data && <Facts running={data} />}
      <FailedLetters />
      <KeepingForm />
    </div>
  );
}

function Facts({ running }: { running: Running }) {
  const me = useMe();
  const now = useNow();
  const { version, node, startedAt, database, jobs, letters, backup, streams } = running;
  const isLate = letters.since !== null && now - letters.since > DAY / 24;
  const isOld = backup === null || now - backup.at > OLD_BACKUP;
  return (
    <dl className="grid border-t border-edge">
      <Fact name="Marmot">
        {version} on Node {node.replace(/^v/, '')}, running since {formatNear(startedAt, now, me)}
      </Fact>
      <Fact name="Database">
        PostgreSQL {database.version.split(' ')[0]}, {(database.bytes / 1e6).toFixed(0)} MB, tables
        as of {database.tables.replace(/_/g, ' ')}
      </Fact>
      <Fact
        name="Letters"
        todo={
          isLate
            ? `The first waits since ${formatNear(letters.since!, now, me)}: look whether the mail server answers, and write yourself a letter in the first hour’s fifth step.`
            : null
        }
      >
        {letters.server === null
          ? 'They stay in the Mailroom: no mail server is set. '
          : `They go to ${letters.server}. `}
        {letters.waiting === 0 ? 'None waits.' : `${counted(letters.waiting, 'letter')} wait.`}
      </Fact>
      <Fact
        name="Work that is due"
        todo={
          jobs.some(({ tries }) => tries > 0)
            ? 'Some of it failed and is tried again; what it says stands in the log of the server.'
            : null
        }
      >
        {jobs.length === 0
          ? 'Nothing waits.'
          : jobs
              .map(
                ({ kind, due, since }) => `${due} × ${kind}, since ${formatNear(since, now, me)}`,
              )
              .join('; ')}
      </Fact>
      <Fact
        name="Backup"
        todo={
          isOld
            ? 'Let a timer call “npm run backup” every night; docs/OPERATIONS.md says how.'
            : null
        }
      >
        {backup === null
          ? 'None was made by Marmot.'
          : `The last one ${formatNear(backup.at, now, me)}, ${(backup.bytes / 1e6).toFixed(1)} MB, read back.`}
      </Fact>
      <Fact name="Windows">{counted(streams, 'window')} listen to this server.</Fact>
    </dl>
  );
}

/** One fact, and what is to be done where something is. */
function Fact({
  name,
  children,
  todo = null,
}: {
  name: string;
  children: ReactNode;
  todo?: string | null;
}) {
  return (
    <div className="grid gap-x-4 border-b border-edge py-2.5 sm:grid-cols-[10rem_minmax(0,1fr)]">
      <dt className="font-semibold">{name}</dt>
      <dd>
        {children}
        {todo && <p className="mt-1 rounded-sm bg-glow-wash px-2 py-1 font-semibold">{todo}</p>}
      </dd>
    </div>
  );
}

function FailedLetters() {
  const me = useMe();
  const now = useNow();
  const changed = useChanged();
  const { data } = useQuery(answerTo('GET /api/administration/letters'));
  const retry = useMutation({
    mutationFn: (letters: readonly FailedLetter[]) =>
      callApi('POST /api/administration/letters/retry', {
        body: { ids: letters.map(({ id }) => id) },
      }),
    onSuccess: ({ retried }) => tellUser(`${counted(retried, 'letter')} leave again.`),
    onSettled: () => changed('mailroom', 'directory'),
  });
  const worth = data?.letters.filter(({ canRetry }) => canRetry) ?? [];
  if (!data || data.letters.length === 0) return null;
  return (
    <section aria-labelledby="failed">
      <div className="mb-2 flex flex-wrap items-baseline justify-between gap-3">
        <h2 id="failed" className="text-[17px]">
          {counted(data.letters.length, 'letter')} did not arrive
        </h2>
        {worth.length > 1 && (
          <Button disabled={retry.isPending} onClick={() => retry.mutate(worth)}>
            Try all {worth.length} again
          </Button>
        )}
      </div>
      <p className="mb-3 text-ink-2">
        What they say is their receivers’ own. Correct an address where the person or the meeting
        has it; try again what failed by the mail server.
      </p>
      {retry.isError && (
        <p role="alert" className="mb-2 font-semibold text-alpenglow">
          {errorText(retry.error)}
        </p>
      )}
      <ul aria-label="Letters that did not arrive" className="border-t border-edge">
        {data.letters.map((letter) => (
          <li
            key={letter.id}
            className="grid items-center gap-x-4 border-b border-edge py-1.5 sm:grid-cols-[minmax(0,1fr)_minmax(0,1.4fr)_auto]"
          >
            <span>
              <b className="font-semibold">{letter.to}</b>
              <span className="block text-xs text-ink-2">{formatNear(letter.at, now, me)}</span>
            </span>
            <span className="text-ink-2">{letter.failure}</span>
            {letter.canRetry ? (
              <Button
                look="quiet"
                disabled={retry.isPending}
                aria-label={`Try the letter to ${letter.to} again`}
                onClick={() => retry.mutate([letter])}
              >
                Try again
              </Button>
            ) : (
              <span className="text-xs text-ink-2">told otherwise since</span>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
