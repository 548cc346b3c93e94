import { counted } from '../../core/counted.ts';
import { useQueries } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { Link } from 'react-router';
import type { Directory, Person } from '../../contract/people.ts';
import { stateNow, type StateNow } from '../../core/availability/stateNow.ts';
import { formatNear, formatTime } from '../../core/time/format.ts';
import { DAY, HOUR, MINUTE, type Interval } from '../../core/time/interval.ts';
import { workingIntervals } from '../../core/time/workingHours.ts';
import { zoneTable } from '../../core/time/zoneTable.ts';
import {
  answerTo,
  Failure,
  useAddressQuery,
  useMe,
  useNow,
  usePages,
  useShown,
} from '../client/index.ts';
import { TextInput } from '../design/controls.tsx';
import { Initials } from '../design/Initials.tsx';
import { Empty, Outline } from '../design/states.tsx';
import { VirtualRows } from '../design/VirtualRows.tsx';
import { planPath, required } from '../lineUp/index.ts';
import { PersonPanel } from './PersonPanel.tsx';

const AHEAD_MS = 7 * DAY;
const peopleOf = (part: Directory) => part.people;

type Row = { kind: 'site'; name: string } | { kind: 'person'; person: Person };
const keyOf = (row: Row) => (row.kind === 'site' ? row.name : row.person.id);

/** Everyone by site: their time now, whether they are free and until when, and a way into Plan. */
export function PeopleView() {
  const [text, setText] = useState('');
  const asked = useDeferredValue(text.trim());
  const { query, first, rows, parts, more } = usePages(
    'GET /api/people',
    asked ? { q: asked } : {},
    peopleOf,
  );
  const { states, times } = useStates(parts);
  const [params, setParams] = useAddressQuery();
  const openId = Number(params.get('open')) || null;
  const opened = rows.find((one) => one.id === openId);
  const open = (id: number | null) =>
    setParams((before) => {
      const after = new URLSearchParams(before);
      if (id === null) after.delete('open');
      else after.set('open', String(id));
      return after;
    });
  const listed = rows.flatMap((person, k): Row[] => {
    const site = person.site ?? person.organization;
    const before = rows[k - 1];
    const begins = !before || (before.site ?? before.organization) !== site;
    return [...(begins ? [{ kind: 'site' as const, name: site }] : []), { kind: 'person', person }];
  });
  return (
    <main className="mx-auto w-full max-w-6xl px-4 py-5 max-sm:py-2 md:px-6">
      <div className="mb-4 flex flex-wrap items-center justify-between gap-x-3 gap-y-2 max-sm:mb-2">
        <h1 className="text-[26px] max-sm:text-[20px]">
          People{' '}
          <span className="text-base font-normal text-ink-2">{first && `${first.total}`}</span>
        </h1>
        <TextInput
          type="search"
          aria-label="Name, team, site or work"
          placeholder="Name, team, site or work"
          className="w-72 max-sm:w-44"
          maxLength={100}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </div>
      {query.isPending && <Outline what="people" rows={10} />}
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      {first && <Teams teams={first.teams} />}
      {first?.isForgiven && (
        <p role="status" className="mb-2 text-ink-2">
          Nobody is spelt “{asked}”. These come close:
        </p>
      )}
      {first?.total === 0 && (
        <Empty title={`Nobody matches “${asked}”`}>Try a part of a name, a team or a site.</Empty>
      )}
      {first && first.total > 0 && (
        <VirtualRows
          label="People"
          rows={listed}
          keyOf={keyOf}
          total={first.total + listed.length - rows.length}
          rowPx={[49, 66]}
          onNeedMore={more}
        >
          {(row) =>
            row.kind === 'site' ? (
              <h2 className="pt-4 pb-1 text-[15px]">{row.name}</h2>
            ) : (
              <PersonRow
                person={row.person}
                state={states.get(row.person.id) ?? null}
                onOpen={() => open(row.person.id)}
              />
            )
          }
        </VirtualRows>
      )}
      {opened && (
        <PersonPanel
          person={opened}
          busy={states.get(opened.id) === 'unshared' ? 'unshared' : (times.get(opened.id) ?? null)}
          onClose={() => open(null)}
        />
      )}
    </main>
  );
}

/** How the time of those listed is now, as far as it is shared; null where nothing is. */
function useStates(parts: readonly Directory[]): {
  states: ReadonlyMap<number, StateNow | 'unshared'>;
  /** What is taken in the next days, of those who share it. */
  times: ReadonlyMap<number, Interval[]>;
} {
  const now = useNow();
  // Asked anew every hour; what changes meanwhile is heard of.
  const from = Math.floor(now / HOUR) * HOUR;
  const groups = parts.map((part) => part.people.map((one) => one.id)).filter((ids) => ids.length);
  useShown(groups.flat().map((id) => `calendar:${id}`));
  const answers = useQueries({
    queries: groups.map((ids) => ({
      ...answerTo('POST /api/availability/busy', {
        body: {
          subjects: ids,
          from,
          to: from + AHEAD_MS,
        },
      }),
    })),
  });
  const subjects = answers.flatMap((answer) => answer.data?.subjects ?? []);
  const times = new Map(
    subjects
      .filter((one) => one.knowledge !== 'none')
      .map(({ id, busy }) => [id, busy.map(([start, end]) => ({ start, end }))]),
  );
  const states = new Map(
    subjects.map(({ id, knowledge, busy }): [number, StateNow | 'unshared'] => [
      id,
      knowledge === 'none'
        ? 'unshared'
        : stateNow(
            busy.map(([start, end, occupancy]) => ({ start, end, occupancy })),
            now,
          ),
    ]),
  );
  return { states, times };
}

function Teams({ teams }: { teams: Directory['teams'] }) {
  if (teams.length === 0) return null;
  return (
    <ul
      aria-label="Teams"
      className="mb-2 flex flex-wrap gap-2 max-sm:-mx-4 max-sm:flex-nowrap max-sm:overflow-x-auto max-sm:px-4 max-sm:whitespace-nowrap"
    >
      {teams.map((team) => (
        <li key={team.id}>
          <Link
            to={planPath({ lineUp: team.memberIds.map(required) })}
            className="inline-block rounded-full border border-edge bg-sheet px-3 py-1 hover:border-ink-2 max-sm:py-3"
          >
            <b className="font-semibold">{team.name}</b>{' '}
            {counted(team.memberIds.length, 'person', 'people')}, plan
          </Link>
        </li>
      ))}
    </ul>
  );
}

const STATE_WORDS: Record<StateNow['state'], string> = {
  free: 'Free',
  busy: 'Taken',
  tentative: 'Perhaps taken',
  away: 'Away',
  unknown: 'Not known',
  barred: 'Cannot be booked',
};
const STATE_LOOKS: Record<StateNow['state'], string> = {
  free: 'bg-lichen',
  busy: 'rock',
  tentative: 'rock-tentative border border-edge',
  away: 'rock-away',
  unknown: 'unknown border border-edge',
  barred: 'bg-closed border border-edge',
};

function PersonRow({
  person,
  state,
  onOpen,
}: {
  person: Person;
  state: StateNow | 'unshared' | null;
  onOpen: () => void;
}) {
  const me = useMe();
  const now = useNow();
  const moment = { start: now, end: now + MINUTE };
  const working = workingIntervals(person.hours, zoneTable(person.zone, moment), moment).length > 0;
  return (
    <div className="grid min-h-12 grid-cols-[1fr_auto] items-center gap-x-4 border-t border-edge py-1 sm:grid-cols-[minmax(0,2.2fr)_minmax(0,1.4fr)_minmax(0,1.6fr)_4rem]">
      <span className="flex min-w-0 items-center gap-2.5">
        <Initials name={person.name} />
        <span className="min-w-0 leading-tight">
          <button
            type="button"
            className="reach font-semibold hover:underline"
            aria-haspopup="dialog"
            onClick={onOpen}
          >
            {person.name}
          </button>
          <span className="block truncate text-xs text-ink-2">
            {[person.jobTitle, ...person.teams].filter(Boolean).join(', ')}
          </span>
        </span>
      </span>
      {/* A line of its own on a phone: what is read later makes nothing above it narrower. */}
      <span className="max-sm:order-3 max-sm:col-span-2 max-sm:flex max-sm:justify-between max-sm:gap-3 sm:contents">
        <span className="leading-tight">
          {formatTime(now, person.zone, me.clock)}{' '}
          <span className="text-xs text-ink-2">
            {me.zoneNames[person.zone] ?? person.zone}, {working ? 'working hours' : 'off work'}
          </span>
        </span>
        <span className="flex items-center gap-2 leading-tight">
          {state === null ? (
            <span className="text-ink-2">…</span>
          ) : state === 'unshared' ? (
            <span className="text-ink-2">not shared with you</span>
          ) : (
            <>
              <i
                aria-hidden="true"
                className={`h-5 w-2 shrink-0 rounded-sm ${STATE_LOOKS[state.state]}`}
              />
              <span>
                {STATE_WORDS[state.state]}
                <span className="text-ink-2">
                  {state.until !== null && ` until ${formatNear(state.until, now, me)}`}
                </span>
              </span>
            </>
          )}
        </span>
      </span>
      <span className="text-right max-sm:order-2">
        {person.id !== me.id && (
          <Link
            to={planPath({ lineUp: [me.id, person.id].map(required) })}
            className="inline-block px-2 py-1 font-semibold text-gentian hover:underline max-sm:py-3"
            aria-label={`Plan with ${person.name}`}
          >
            Plan
          </Link>
        )}
      </span>
    </div>
  );
}
