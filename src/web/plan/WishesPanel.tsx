import { memo } from 'react';
import type { Wishes } from '../../core/planner/wishes.ts';
import { formatBetween, formatLength, type ClockStyle } from '../../core/time/format.ts';
import { MINUTE } from '../../core/time/interval.ts';
import { TextInput } from '../design/controls.tsx';
import { Select, type SelectOption } from '../design/Select.tsx';
import { Tick } from '../design/ticks.tsx';
import { MOST_DATES, MOST_SEATS } from '../lineUp/index.ts';
import { drawnAlike } from './drawnAlike.ts';
import type { Plan } from './usePlan.ts';
import { placeName } from './zoneNames.ts';
import { AmountField } from '../design/AmountField.tsx';

const RULES: SelectOption<Wishes['rule']>[] = [
  { value: 'required', words: 'all who are required' },
  { value: 'everyone', words: 'everyone, optional ones too' },
];
const PLACES: SelectOption<Wishes['places']>[] = [
  { value: 'listed', words: 'every place of the line-up' },
  { value: 'fitting', words: 'a fitting room at each site' },
  { value: 'ignored', words: 'no place at all' },
];
const TENTATIVE: SelectOption<boolean>[] = [
  { value: false, words: 'counts as taken' },
  { value: true, words: 'may be used' },
];
const UNKNOWN: SelectOption<Wishes['unknown']>[] = [
  { value: 'busy', words: 'counts as taken' },
  { value: 'ignored', words: 'may be used, and is named' },
];
const LEADS: [number, string][] = [
  [0, 'from now on'],
  [120, 'in 2 hours at the earliest'],
  [240, 'in 4 hours at the earliest'],
  [1440, 'in a day at the earliest'],
  [4320, 'in 3 days at the earliest'],
  [10_080, 'in a week at the earliest'],
];
const LEAST_BAD: SelectOption<boolean>[] = [
  { value: false, words: 'say who is in the way' },
  { value: true, words: 'show the least bad times' },
];
const REPEATS: SelectOption<number>[] = [
  { value: 0, words: 'once' },
  { value: 1, words: 'weekly' },
  { value: 2, words: 'every 2 weeks' },
  { value: 3, words: 'every 3 weeks' },
  { value: 4, words: 'every 4 weeks' },
];

/** What counts, as a sentence whose parts can be changed: whose time, which places, which hours, how often. */
export const WishesPanel = memo(function WishesPanel({
  plan,
}: {
  plan: Pick<
    Plan,
    'me' | 'set' | 'wishes' | 'leadMinutes' | 'repeating' | 'moving' | 'members' | 'data'
  >;
}) {
  const { wishes, leadMinutes, set, me, repeating } = plan;
  const repeat = (everyWeeks: number, count: number) =>
    set({
      repeating: everyWeeks
        ? { everyWeeks, count: Math.min(count, Math.floor(MOST_DATES / everyWeeks)) }
        : null,
    });
  const stretched = Object.entries(wishes.stretches).filter(([, s]) => s.early || s.late);
  const unknown = plan.members.some(
    (one) => one.knowledge === 'none' || one.busy.some((span) => span.occupancy === 'unknown'),
  );
  return (
    <section aria-label="What counts" className="mt-4">
      <h2 className="mb-1 text-[15px]">What counts</h2>
      <div className="leading-7">
        {!plan.moving && (
          <>
            Meet{' '}
            <Select
              look="word"
              question="How often"
              value={repeating?.everyWeeks ?? 0}
              onChange={(weeks) => repeat(weeks, repeating?.count ?? 8)}
              options={REPEATS}
            />
            {repeating && (
              <>
                ,{' '}
                <Select
                  look="word"
                  question="How many dates"
                  value={repeating.count}
                  onChange={(count) => repeat(repeating.everyWeeks, count)}
                  options={Array.from(
                    { length: Math.floor(MOST_DATES / repeating.everyWeeks) - 1 },
                    (_, k) => ({ value: k + 2, words: `${k + 2} times` }),
                  )}
                />
              </>
            )}
            .{' '}
          </>
        )}
        Begin{' '}
        <Select
          look="word"
          question="How soon"
          value={leadMinutes}
          onChange={(minutes) => set({ leadMinutes: minutes })}
          options={leadOptions(leadMinutes)}
        />
        ,{' '}
        <Select
          look="word"
          question="At which time of day"
          value={partOf(wishes.between)}
          onChange={(part) => set({ between: betweenOf(part) })}
          options={partOptions(wishes.between, me.clock)}
        />
        . Free must be{' '}
        <Select
          look="word"
          question="Whose conflicts exclude a time"
          value={wishes.rule}
          onChange={(rule) => set({ rule })}
          options={RULES}
        />{' '}
        and{' '}
        <Select
          look="word"
          question="Which places must be free"
          value={wishes.places}
          onChange={(places) => set({ places })}
          options={PLACES}
        />
        {wishes.places === 'fitting' && <RoomWishes plan={plan} />},{' '}
        <Select
          look="word"
          question="How far outside working hours"
          value={wishes.stretchMinutes}
          onChange={(stretchMinutes) => set({ stretchMinutes })}
          options={[...new Set([0, 30, 60, 120, 180, wishes.stretchMinutes])]
            .sort((a, b) => a - b)
            .map((minutes) => ({
              value: minutes,
              words: minutes === 0 ? 'within' : `up to ${minutes} min outside`,
            }))}
        />{' '}
        working hours. What is tentative{' '}
        <Select
          look="word"
          question="What is tentative"
          value={wishes.tentativeIsFree}
          onChange={(tentativeIsFree) => set({ tentativeIsFree })}
          options={TENTATIVE}
        />
        {unknown && (
          <>
            , what is not known{' '}
            <Select
              look="word"
              question="What is not known"
              value={wishes.unknown}
              onChange={(next) => set({ unknown: next })}
              options={UNKNOWN}
            />
          </>
        )}
        . Where nothing fits,{' '}
        <Select
          look="word"
          question="Where nothing fits"
          value={wishes.leastBad}
          onChange={(leastBad) => set({ leastBad })}
          options={LEAST_BAD}
        />
        .
      </div>
      {stretched.map(([zone, { early, late }]) => (
        <p key={zone} className="mt-1 flex justify-between gap-2 text-xs">
          <span>
            {placeName(zone, me.zoneNames)}:{' '}
            {[early && `${early} min earlier`, late && `${late} min later`]
              .filter(Boolean)
              .join(', ')}
          </span>
          <button
            type="button"
            className="min-h-6 font-semibold text-gentian hover:underline"
            onClick={() =>
              set({ stretches: { ...wishes.stretches, [zone]: { early: 0, late: 0 } } })
            }
            aria-label={`No longer for ${placeName(zone, me.zoneNames)}`}
          >
            no longer
          </button>
        </p>
      ))}
    </section>
  );
}, drawnAlike);

type Part = Wishes['between'];

const partOf = (part: Part): string => (part ? `${part.from}-${part.to}` : '');

function betweenOf(part: string): { from: number; to: number } | null {
  const [from, to] = part.split('-').map(Number);
  return from === undefined || to === undefined ? null : { from, to };
}

const PARTS = ['', '480-720', '720-1020', '1020-1260'];

const partOptions = (present: Part, clock: ClockStyle): SelectOption<string>[] =>
  [...new Set([...PARTS, partOf(present)])].map((value) => ({
    value,
    words: value === '' ? 'at any time of day' : formatBetween(betweenOf(value)!, clock),
  }));

/** The usual ones, and the one that is wished. */
const leadOptions = (minutes: number): SelectOption<number>[] =>
  [
    ...LEADS,
    ...(LEADS.some(([one]) => one === minutes)
      ? []
      : [[minutes, `in ${formatLength(minutes * MINUTE)} at the earliest`] as [number, string]]),
  ].map(([value, words]) => ({ value, words }));

function RoomWishes({ plan }: { plan: Pick<Plan, 'wishes' | 'set' | 'data' | 'members'> }) {
  const { wishes, set, data, members } = plan;
  const sites = new Set(
    members.flatMap((one) => (one.kind === 'person' && !one.setAside ? (one.siteId ?? []) : [])),
  );
  const rooms = data.rooms.filter((room) => sites.has(room.siteId));
  const features = [...new Set(rooms.flatMap((room) => room.features))].sort();
  const cities = new Map(rooms.map((room) => [room.siteId, room.site]));
  const toggled = <One,>(list: readonly One[], one: One) =>
    list.includes(one) ? list.filter((other) => other !== one) : [...list, one];
  return (
    <div className="my-1 grid gap-1.5 border-l-2 border-edge pl-2.5 text-xs leading-normal">
      <TextInput
        aria-label="A part of the room’s name"
        placeholder="Any room; or a part of its name"
        className="w-full py-1"
        value={wishes.rooms.text}
        onChange={(event) => set({ roomText: event.target.value })}
      />
      <p>
        for{' '}
        <AmountField
          label="Seats that each room has at least"
          value={wishes.rooms.seats ?? 0}
          least={0}
          most={MOST_SEATS}
          onChange={(roomSeats) => set({ roomSeats })}
        />{' '}
        or more{!wishes.rooms.seats && ', as many as there are people'}
      </p>
      <div className="flex flex-wrap gap-x-3 gap-y-1" role="group" aria-label="What the rooms need">
        {features.map((feature) => (
          <Tick
            key={feature}
            label={feature}
            on={wishes.rooms.features.includes(feature)}
            onChange={() => set({ features: toggled(wishes.rooms.features, feature) })}
          />
        ))}
      </div>
      {[...cities].map(([siteId, city]) => (
        <Tick
          key={siteId}
          label={`A room in ${city}`}
          on={!wishes.rooms.without.includes(siteId)}
          onChange={() => set({ withoutRoom: toggled(wishes.rooms.without, siteId) })}
        />
      ))}
    </div>
  );
}
