import type { Wishes } from '../../core/planner/wishes.ts';
import { usePhone } from '../design/usePhone.ts';
import { Choice, TextInput } from '../design/controls.tsx';
import { MOST_DATES } from './address.ts';
import type { Plan } from './usePlan.ts';
import { placeName } from './zoneNames.ts';

const REPEATS = [
  [1, 'weekly'],
  [2, 'every 2 weeks'],
  [3, 'every 3 weeks'],
  [4, 'every 4 weeks'],
] as const;

/** What counts: whose conflicts, which places, how far outside hours, and how often. */
export function WishesPanel({
  plan,
}: {
  plan: Pick<Plan, 'me' | 'set' | 'wishes' | 'repeating' | 'moving' | 'members' | 'data'>;
}) {
  const { wishes, set, me, repeating } = plan;
  const phone = usePhone();
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
      <details open={!phone}>
        <summary className="mb-2 cursor-pointer font-head text-[15px] font-semibold">
          What counts
        </summary>
        <div className="grid gap-2">
          <Choice
            aria-label="Whose conflicts exclude a time"
            value={wishes.rule}
            onChange={(event) => set({ rule: event.target.value as Wishes['rule'] })}
          >
            <option value="required">Required people</option>
            <option value="everyone">Everyone, optional ones too</option>
          </Choice>
          <Choice
            aria-label="Which places must be free"
            value={wishes.places}
            onChange={(event) => set({ places: event.target.value as Wishes['places'] })}
          >
            <option value="listed">Every place in the line-up</option>
            <option value="fitting">A fitting room at each site</option>
            <option value="ignored">People only, no place</option>
          </Choice>
          {wishes.places === 'fitting' && <RoomWishes plan={plan} />}
          <Choice
            aria-label="How far outside working hours"
            value={wishes.stretchMinutes}
            onChange={(event) => set({ stretchMinutes: Number(event.target.value) })}
          >
            {[...new Set([0, 30, 60, 120, 180, wishes.stretchMinutes])]
              .sort((a, b) => a - b)
              .map((minutes) => (
                <option key={minutes} value={minutes}>
                  {minutes === 0 ? 'Within working hours' : `${minutes} min outside hours`}
                </option>
              ))}
          </Choice>
          {stretched.map(([zone, { early, late }]) => (
            <p key={zone} className="flex justify-between gap-2 text-xs">
              <span>
                {placeName(zone, me.zoneNames)}:{' '}
                {[early && `${early} min earlier`, late && `${late} min later`]
                  .filter(Boolean)
                  .join(', ')}
              </span>
              <button
                type="button"
                className="font-semibold text-gentian hover:underline"
                onClick={() =>
                  set({ stretches: { ...wishes.stretches, [zone]: { early: 0, late: 0 } } })
                }
                aria-label={`No longer for ${placeName(zone, me.zoneNames)}`}
              >
                no longer
              </button>
            </p>
          ))}
          <Tick
            label="Tentative time may be used"
            on={wishes.tentativeIsFree}
            onChange={(on) => set({ tentativeIsFree: on })}
          />
          {unknown && (
            <Tick
              label="What is not known does not count"
              on={wishes.unknown === 'ignored'}
              onChange={(on) => set({ unknown: on ? 'ignored' : 'busy' })}
            />
          )}
          <Tick
            label="Show the least bad times"
            on={wishes.leastBad}
            onChange={(on) => set({ leastBad: on })}
          />
          {!plan.moving && (
            <div className="flex gap-1.5">
              <Choice
                aria-label="How often"
                value={repeating?.everyWeeks ?? ''}
                onChange={(event) => repeat(Number(event.target.value), repeating?.count ?? 8)}
              >
                <option value="">Once</option>
                {REPEATS.map(([weeks, words]) => (
                  <option key={weeks} value={weeks}>
                    {words}
                  </option>
                ))}
              </Choice>
              {repeating && (
                <Choice
                  aria-label="How many dates"
                  className="w-auto"
                  value={repeating.count}
                  onChange={(event) => repeat(repeating.everyWeeks, Number(event.target.value))}
                >
                  {Array.from(
                    { length: Math.floor(MOST_DATES / repeating.everyWeeks) - 1 },
                    (_, k) => k + 2,
                  ).map((count) => (
                    <option key={count} value={count}>
                      {count} times
                    </option>
                  ))}
                </Choice>
              )}
            </div>
          )}
        </div>
      </details>
    </section>
  );
}

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
    <div className="grid gap-1.5 border-l-2 border-edge pl-2.5 text-xs">
      <TextInput
        aria-label="A part of the room’s name"
        placeholder="Any room; or a part of its name"
        className="w-full py-1"
        value={wishes.rooms.text}
        onChange={(event) => set({ roomText: event.target.value })}
      />
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

function Tick({
  label,
  on,
  onChange,
}: {
  label: string;
  on: boolean;
  onChange: (on: Wishes['tentativeIsFree']) => void;
}) {
  return (
    <label className="flex items-center gap-1.5">
      <input type="checkbox" checked={on} onChange={(event) => onChange(event.target.checked)} />
      {label}
    </label>
  );
}
