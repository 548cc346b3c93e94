import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { type HouseLog, type LoggedThing } from '../../contract/administration.ts';
import { formatDay, formatTime } from '../../core/time/format.ts';
import { addDays, dateAt } from '../../core/time/wall.ts';
import {
  errorText,
  Failure,
  takeChangesBack,
  takeFile,
  undoable,
  useAddressQuery,
  useChanged,
  useMe,
  useNow,
  usePages,
  useShown,
} from '../client/index.ts';
import { Button, TextInput } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { Select } from '../design/Select.tsx';
import { Empty, Outline } from '../design/states.tsx';
import { AdminFrame } from './AdminFrame.tsx';
import { useStaff } from './useAdministration.ts';

const THINGS: { value: LoggedThing | null; words: string }[] = [
  { value: null, words: 'everything' },
  { value: 'person', words: 'people' },
  { value: 'team', words: 'teams' },
  { value: 'site', words: 'sites' },
  { value: 'place', words: 'places' },
  { value: 'meeting', words: 'meetings' },
  { value: 'organization', words: 'the organization' },
];
const SPANS: { value: number | null; words: string }[] = [
  { value: null, words: 'as long as it is kept' },
  { value: 0, words: 'today' },
  { value: 6, words: 'the last 7 days' },
  { value: 29, words: 'the last 30 days' },
];
const entriesOf = ({ entries }: HouseLog) => entries;

/** Who did what to whom or what, and in whose name? */
export function LogView() {
  return (
    <AdminFrame>
      <Log />
    </AdminFrame>
  );
}

function Log() {
  useShown(['directory:all', 'resource:all']);
  const me = useMe();
  const now = useNow();
  const [params, setParams] = useAddressQuery();
  const what = (params.get('what') ?? null) as LoggedThing | null;
  const days = params.has('days') ? Number(params.get('days')) : null;
  const person = Number(params.get('person')) || null;
  const query = {
    ...(what && { what }),
    ...(person && { person }),
    ...(days !== null && { first: addDays(dateAt(now, me.zone), -days) }),
  };
  const log = usePages('GET /api/administration/log', query, entriesOf);
  const changed = useChanged();
  const back = useMutation({
    mutationFn: (change: number) => undoable(takeChangesBack([change])),
    onSettled: () => changed('directory', 'resource', 'person'),
  });
  const put = (name: string, value: string | null) =>
    setParams((before) => {
      const after = new URLSearchParams(before);
      if (value === null) after.delete(name);
      else after.set(name, value);
      return after;
    });
  return (
    <div className="px-4 py-3 md:px-6">
      <div className="mb-3 flex flex-wrap items-center justify-between gap-3">
        <p className="font-head text-[17px]">
          What was done to{' '}
          <Select
            look="word"
            question="To what"
            value={what}
            options={THINGS}
            onChange={(value) => put('what', value)}
          />
          ,{' '}
          <Select
            look="word"
            question="When"
            value={days}
            options={SPANS}
            onChange={(value) => put('days', value === null ? null : String(value))}
          />
        </p>
        <span className="flex flex-wrap items-center gap-2">
          <By person={person} onPerson={(id) => put('person', id === null ? null : String(id))} />
          <Button
            look="quiet"
            onClick={() =>
              void takeFile('GET /api/administration/log.csv', { query }).catch((error: unknown) =>
                tellUser(errorText(error)),
              )
            }
          >
            As CSV
          </Button>
        </span>
      </div>
      {log.query.isPending && <Outline what="the log" rows={10} />}
      {log.query.isError && (
        <Failure error={log.query.error} retry={() => void log.query.refetch()} />
      )}
      {log.query.data && log.rows.length === 0 && (
        <Empty title="Nothing that is remembered">
          What is done from now on stands here, with who did it.
        </Empty>
      )}
      <ol aria-label="What was done" className="border-t border-edge">
        {log.rows.map(({ id, at, actor, actedFor, about, what: words, change }) => (
          <li
            key={id}
            className="grid min-h-[34px] items-baseline gap-x-4 border-b border-edge py-1.5 sm:grid-cols-[9rem_minmax(0,1fr)_auto]"
          >
            <span className="text-ink-2">
              {formatDay(at, me.zone)}, {formatTime(at, me.zone, me.clock)}
            </span>
            <span>
              <b>{actor ?? 'Marmot'}</b>
              {actedFor && `, for ${actedFor},`}{' '}
              {about !== null && about !== '' && <b>{about}: </b>}
              {words}
            </span>
            {change !== null && (
              <Button
                look="quiet"
                className="-my-1"
                disabled={back.isPending}
                aria-label={`Take back: ${about ?? ''} ${words}`}
                onClick={() => back.mutate(change)}
              >
                Take back
              </Button>
            )}
          </li>
        ))}
      </ol>
      {back.isError && (
        <p role="alert" className="mt-2 rounded-sm bg-glow-wash px-3 py-2 font-semibold">
          {errorText(back.error)}
        </p>
      )}
      {log.query.hasNextPage && (
        <Button repeats look="quiet" disabled={log.query.isFetchingNextPage} onClick={log.more}>
          Earlier
        </Button>
      )}
    </div>
  );
}

/** Whose doing is shown: found by a part of the name. */
function By({
  person,
  onPerson,
}: {
  person: number | null;
  onPerson: (id: number | null) => void;
}) {
  const [text, setText] = useState('');
  const { rows } = useStaff({ q: text.trim(), limit: 6 });
  if (person !== null)
    return (
      <Button onClick={() => onPerson(null)}>
        By one person <span className="font-normal text-ink-2">· everybody again</span>
      </Button>
    );
  return (
    <span className="relative">
      <TextInput
        type="search"
        aria-label="Done by"
        placeholder="Done by"
        className="w-48"
        maxLength={100}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {text.trim() !== '' && (
        <ul
          aria-label="People"
          className="absolute right-0 z-10 mt-1 w-64 rounded-sm border border-edge bg-sheet p-1 shadow-sm"
        >
          {rows.map(({ id, name }) => (
            <li key={id}>
              <Button
                look="quiet"
                className="w-full text-left"
                onClick={() => {
                  setText('');
                  onPerson(id);
                }}
              >
                {name}
              </Button>
            </li>
          ))}
          {rows.length === 0 && <li className="px-2.5 py-1 text-ink-2">Nobody matches.</li>}
        </ul>
      )}
    </span>
  );
}
