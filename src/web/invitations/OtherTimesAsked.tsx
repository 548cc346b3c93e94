import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { DeclineProposalRequest, TakeTimeRequest } from '../../contract/asking.ts';
import type { MeetingReplies, OtherTime, OtherTimes } from '../../contract/invitations.ts';
import type { FitState } from '../../core/planner/fit.ts';
import { listNames } from '../../core/planner/words.ts';
import { formatDay, formatSpan, formatTime } from '../../core/time/format.ts';
import {
  callApi,
  answerTo,
  errorText,
  Failure,
  undoable,
  useChanged,
  useMe,
} from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { usePhone } from '../design/usePhone.ts';
import { Outline } from '../design/states.tsx';
import { offerEventUndo } from '../meetings/index.ts';

const LOOK: Record<FitState, string> = {
  free: 'border border-edge bg-sheet',
  outside: 'border border-edge bg-closed',
  holiday: 'border border-edge bg-closed',
  tentative: 'rock-tentative',
  unknown: 'unknown',
  busy: 'rock',
  away: 'rock-away',
  barred: 'border border-edge bg-closed',
};
const WORDS: Record<FitState, string> = {
  free: 'free',
  outside: 'outside working hours',
  holiday: 'a public holiday',
  tentative: 'tentatively taken',
  unknown: 'not known',
  busy: 'taken',
  away: 'away',
  barred: 'cannot be booked',
};

const PLACES = {
  free: { look: 'free', words: 'free' },
  taken: { look: 'busy', words: 'taken' },
  barred: { look: 'barred', words: 'cannot be booked' },
} as const;

/** The present time, those asked for and Plan's best: who could come to each, and taking it. */
export function OtherTimesAsked({ meeting }: { meeting: MeetingReplies }) {
  const me = useMe();
  const phone = usePhone();
  const client = useQueryClient();
  const changed = useChanged();
  const query = useQuery(answerTo('GET /api/replies/:id/times', { params: { id: meeting.id } }));
  const refresh = () => client.invalidateQueries();
  const take = useMutation({
    mutationFn: ({ start, end }: OtherTime) =>
      undoable(
        callApi('POST /api/replies/:id/times', {
          params: { id: meeting.id },
          body: {
            version: query.data!.version,
            ...(query.data!.occurrence && { occurrence: query.data!.occurrence }),
            start,
            end,
          } satisfies TakeTimeRequest,
        }),
      ),
    onSuccess: (event) => {
      const when = formatSpan(event, me.zone, me.clock);
      offerEventUndo(
        `“${meeting.title}” is moved to ${when}; everybody is told.`,
        event.undo ?? { id: meeting.id, version: event.version },
        'everyone',
        refresh,
      );
    },
    onError: (error) => tellUser(errorText(error)),
    onSettled: refresh,
  });
  const decline = useMutation({
    mutationFn: async ({ from, start, end }: OtherTime) => {
      for (const { attendeeId } of from)
        await callApi('POST /api/events/:id/proposals/decline', {
          params: { id: meeting.id },
          body: {
            attendeeId,
            ...(query.data!.occurrence && { occurrence: query.data!.occurrence }),
            start,
            end,
          } satisfies DeclineProposalRequest,
        });
      return listNames(from.map((one) => one.name));
    },
    onSuccess: (names) => tellUser(`${names} hears that it stays at its time.`),
    onError: (error) => tellUser(errorText(error)),
    onSettled: () => changed('meeting'),
  });
  const busy = take.isPending || decline.isPending;
  const data = query.data;
  const others = meeting.replies.length;
  const notes = data?.rows.flatMap((row) => row.from.filter((one) => one.note)) ?? [];
  const said = notes.filter(
    (one, k) => notes.findIndex((two) => two.attendeeId === one.attendeeId) === k,
  );
  const best = data?.rows.find((row) => row.isBest);
  const actsOf = (row: OtherTime) =>
    row.kind !== 'present' && (
      <span className="inline-flex items-center gap-3 whitespace-nowrap">
        {row.kind === 'asked' && (
          <button
            type="button"
            className="reach text-[13px] font-semibold text-ink-2 hover:underline"
            disabled={busy}
            aria-label={`Say no to ${formatSpan(row, me.zone, me.clock)}`}
            onClick={() => decline.mutate(row)}
          >
            say no
          </button>
        )}
        <Button
          look={row === best ? 'act' : 'plain'}
          disabled={busy || !hasPlaces(row)}
          aria-label={`Take it: ${formatSpan(row, me.zone, me.clock)}`}
          onClick={() => take.mutate(row)}
        >
          Take it
        </Button>
      </span>
    );
  return (
    <section aria-label="Other times asked for">
      <h3 className="mb-2 text-[15px]">
        Other times asked for{' '}
        <span className="text-[13px] font-normal text-ink-2">and what each would mean</span>
      </h3>
      {query.isPending && <Outline what="the other times" rows={3} />}
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      {data && phone && (
        <ul className="border-y border-edge">
          {data.rows.map((row) => (
            <li
              key={`${row.kind} ${row.start} ${row.end}`}
              className={`grid gap-1 border-t border-edge px-2 py-2 first:border-0 ${row === best ? 'bg-gentian-wash' : row.kind === 'present' ? '' : 'bg-sheet'}`}
            >
              <p>
                <b className="font-semibold">{formatSpan(row, me.zone, me.clock)}</b>{' '}
                <span className="text-ink-2">{origin(row)}</span>
              </p>
              <p className="text-[13px]">{rowWords(row, data)}</p>
              {actsOf(row)}
            </li>
          ))}
        </ul>
      )}
      {data && !phone && (
        <div className="overflow-x-auto border border-edge">
          <table className="w-full border-collapse text-left">
            <thead>
              <tr className="bg-sheet text-[13px]">
                <th scope="col" className="px-3 py-2 font-semibold">
                  when
                </th>
                {data.people.map((one) => (
                  <th
                    key={one.key}
                    scope="col"
                    title={one.name}
                    className="px-1 py-2 text-center font-semibold"
                  >
                    {one.name.split(/[ @]/)[0]}
                  </th>
                ))}
                {data.places.map((one) => (
                  <th key={one.id} scope="col" className="px-1 py-2 text-center font-semibold">
                    {one.name}
                  </th>
                ))}
                <th scope="col" className="px-3 py-2 font-semibold">
                  could come
                </th>
                <th scope="col" className="px-3 py-2">
                  <span className="sr-only">what to do</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {data.rows.map((row) => (
                <tr
                  key={`${row.kind} ${row.start} ${row.end}`}
                  className={`border-t border-edge align-middle ${row === best ? 'bg-gentian-wash' : row.kind === 'present' ? '' : 'bg-sheet'}`}
                >
                  <th scope="row" className="px-3 py-2 font-normal">
                    <b
                      className="font-semibold whitespace-nowrap"
                      title={formatSpan(row, me.zone, me.clock)}
                    >
                      {formatDay(row.start, me.zone)} {formatTime(row.start, me.zone, me.clock)}
                    </b>{' '}
                    <span className="block whitespace-nowrap text-ink-2">{origin(row)}</span>
                  </th>
                  {row.states.map((state, k) => (
                    <td key={data.people[k]!.key} className="px-1 py-2 text-center">
                      <Mark look={LOOK[state]} words={`${data.people[k]!.name}: ${WORDS[state]}`} />
                    </td>
                  ))}
                  {row.places.map((state, k) => (
                    <td key={data.places[k]!.id} className="px-1 py-2 text-center">
                      <PlaceMark name={data.places[k]!.name} state={state} />
                    </td>
                  ))}
                  <td className="px-3 py-2 text-[13px]">
                    <b className="font-semibold whitespace-nowrap">
                      {row.couldCome} of {row.states.length}
                    </b>
                    {row.reasons.length > 0 && (
                      <span className="text-ink-2">, {row.reasons.slice(0, 2).join(', ')}</span>
                    )}
                  </td>
                  <td className="py-2 pr-3 text-right">{actsOf(row)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {data && (
        <p className="mt-2 text-[13px] text-ink-2">
          {said.map((one) => `${one.name}: “${one.note}”. `).join('')}
          Taking one moves the meeting{data.places.length > 0 && ' and its places'} together, and
          tells {others === 1 ? '1 person' : `${others} people`} what changed.
        </p>
      )}
    </section>
  );
}

/** Whether every place that the meeting has, or one for it, can be had. */
const hasPlaces = ({ places }: OtherTime): boolean =>
  !places.includes('taken') && !places.includes('barred');

/** A row in words: who could not come, what becomes of the places, what it costs. */
function rowWords(row: OtherTime, { people, places }: OtherTimes): string {
  const named = (states: FitState[]) =>
    people.filter((_, k) => states.includes(row.states[k]!)).map((one) => one.name);
  const [gone, silent] = [named(['busy', 'away', 'tentative']), named(['unknown'])];
  return [
    `${row.couldCome} of ${people.length} could come`,
    gone.length > 0 && `not ${listNames(gone)}`,
    silent.length > 0 && `nothing known of ${listNames(silent)}`,
    ...row.places.map((state, k) =>
      typeof state === 'object'
        ? `${state.instead.name} instead of ${places[k]!.name}`
        : `${places[k]!.name} ${PLACES[state].words}`,
    ),
    ...row.reasons.slice(0, 2),
  ]
    .filter(Boolean)
    .join('; ');
}

const origin = (row: OtherTime): string =>
  row.kind === 'present'
    ? 'as it is'
    : row.kind === 'best'
      ? 'best of Plan'
      : `from ${listNames(row.from.map((one) => one.name.split(' ')[0]!))}`;

const Mark = ({ look, words }: { look: string; words: string }) => (
  <span title={words} className="inline-block align-middle">
    <i aria-hidden="true" className={`block h-3.5 w-7 rounded-[2px] ${look}`} />
    <span className="sr-only">{words}</span>
  </span>
);

function PlaceMark({ name, state }: { name: string; state: OtherTime['places'][number] }) {
  if (typeof state === 'object')
    return (
      <span
        className="text-[12px]"
        title={`${name} cannot be had; ${state.instead.name} is had instead`}
      >
        {state.instead.name}
      </span>
    );
  const { look, words } = PLACES[state];
  return <Mark look={LOOK[look]} words={`${name}: ${words}`} />;
}
