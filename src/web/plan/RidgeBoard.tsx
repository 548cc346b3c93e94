import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { Ridge } from '../../core/planner/ridge.ts';
import { formatDay, formatTime, zoneCity } from '../../core/time/format.ts';
import { MINUTE, type Interval } from '../../core/time/interval.ts';
import { addDays, resolveWallTime, startOfDay } from '../../core/time/wall.ts';
import { clockChanges, zoneTable } from '../../core/time/zoneTable.ts';
import { Button } from '../design/controls.tsx';
import { DayLanes } from './DayLanes.tsx';
import type { Plan } from './usePlan.ts';

const RIDGE_PX = 34;
const STEP = 15 * MINUTE;

/** Ten days as silhouettes of how many are free; a day opens in place into its lanes. */
export function RidgeBoard({ plan, ridge }: { plan: Plan; ridge: Ridge | null }) {
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set());
  const [whole, setWhole] = useState(false);
  const toggle = (date: string) =>
    setOpen((before) => {
      const after = new Set(before);
      if (!after.delete(date)) after.add(date);
      return after;
    });
  const hours = whole ? ([0, 24] as const) : ([6, 21] as const);
  const chosenDay =
    plan.chosen &&
    plan.dates.find((date) => inside(plan.chosen!.start, dayWindow(date, plan.me.zone, [0, 24])));
  return (
    <section aria-label="When they are free" className="min-w-0">
      <Ruler plan={plan} hours={hours} />
      {plan.dates.map((date) => (
        <DayRow
          key={date}
          plan={plan}
          ridge={ridge}
          date={date}
          hours={hours}
          open={open.has(date) || date === chosenDay}
          onToggle={() => toggle(date)}
        />
      ))}
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 px-3 py-2 text-xs text-ink-2">
        <Sample look="bg-sheet border border-edge">free</Sample>
        <Sample look="rock">taken</Sample>
        <Sample look="rock-tentative">tentative</Sample>
        <Sample look="rock-away">away</Sample>
        <Sample look="bg-closed">outside their hours</Sample>
        <Sample look="unknown border border-edge">not shared</Sample>
        <Sample look="bg-lichen">everyone required is free</Sample>
        <Button
          look="quiet"
          className="ml-auto text-xs"
          aria-pressed={whole}
          onClick={() => setWhole(!whole)}
        >
          {whole ? '06 to 21 only' : 'Show all 24 hours'}
        </Button>
      </div>
    </section>
  );
}

function Sample({ look, children }: { look: string; children: string }) {
  return (
    <span className="flex items-center gap-1.5">
      <i aria-hidden="true" className={`inline-block h-3 w-6 ${look}`} />
      {children}
    </span>
  );
}

const inside = (instant: number, span: Interval) => instant >= span.start && instant < span.end;

/** The part of a day that a row shows, between two hours of the reader's clock. */
function dayWindow(date: string, zone: string, [from, to]: readonly [number, number]): Interval {
  const at = (hour: number) =>
    hour === 24
      ? startOfDay(addDays(date, 1), zone)
      : hour === 0
        ? startOfDay(date, zone)
        : resolveWallTime(`${date}T${String(hour).padStart(2, '0')}:00`, zone).instant;
  return { start: at(from), end: at(to) };
}

const LABEL = 'w-[5.5rem] shrink-0 pl-3 md:w-24';

function Ruler({ plan, hours }: { plan: Plan; hours: readonly [number, number] }) {
  const { me } = plan;
  const day = dayWindow(plan.dates[0]!, me.zone, hours);
  const others = [
    ...new Set(
      plan.members.filter((one) => one.kind === 'person' && !one.setAside).map((one) => one.zone),
    ),
  ]
    .filter((zone) => zone !== me.zone)
    .slice(0, 3);
  const marks: number[] = [];
  for (let hour = hours[0]; hour < hours[1]; hour += 2) marks.push(hour);
  return (
    <div className="py-2 text-[11px]" aria-hidden="true">
      {[me.zone, ...others].map((zone, k) => (
        <div key={zone} className="flex">
          <span className={`${LABEL} truncate text-ink-2`}>
            {me.zoneNames[zone] ?? zoneCity(zone)}
          </span>
          <div className="relative mr-3 h-4 flex-1">
            {marks.map((hour) => {
              const instant = day.start + (hour - hours[0]) * 60 * MINUTE;
              return (
                <span
                  key={hour}
                  className={`absolute -translate-x-1/2 first:translate-x-0 ${k === 0 ? 'font-semibold' : 'text-ink-2'}`}
                  style={{ left: `${((hour - hours[0]) / (hours[1] - hours[0])) * 100}%` }}
                >
                  {formatTime(instant, zone, me.clock)
                    .replace(/^0?(\d+):00 ?/, '$1 ')
                    .replace(/ $/, '')}
                </span>
              );
            })}
          </div>
        </div>
      ))}
    </div>
  );
}

function DayRow({
  plan,
  ridge,
  date,
  hours,
  open,
  onToggle,
}: {
  plan: Plan;
  ridge: Ridge | null;
  date: string;
  hours: readonly [number, number];
  open: boolean;
  onToggle: () => void;
}) {
  const { me, chosen } = plan;
  const window = dayWindow(date, me.zone, hours);
  const picker = usePicker(plan, window);
  const shown = ridge ? sliceOf(ridge, window) : null;
  const changes = [
    ...new Set(plan.members.filter((one) => !one.setAside).map((one) => one.zone)),
  ].filter(
    (zone) =>
      clockChanges(zoneTable(zone, plan.window), dayWindow(date, me.zone, [0, 24])).length > 0,
  );
  const best = shown ? Math.max(0, ...shown.people) : 0;
  const label = formatDay(window.start, me.zone);
  return (
    <div className="border-t border-edge/60 first:border-0">
      <div className="flex items-stretch">
        <button
          type="button"
          onClick={onToggle}
          aria-expanded={open}
          className={`${LABEL} py-0.5 text-left leading-tight hover:text-gentian`}
          aria-label={`${label}, at most ${best} of ${ridge?.totals.people ?? 0} free at once. ${open ? 'Close' : 'Open'} its lanes`}
        >
          <span className="font-semibold">{label}</span>
          <span className="block text-[11px] text-ink-2">
            {ridge ? `${best} of ${ridge.totals.people}` : ''}
            {changes.length > 0 && (
              <span className="block text-alpenglow">
                clock change,{' '}
                {changes.map((zone) => me.zoneNames[zone] ?? zoneCity(zone)).join(', ')}
              </span>
            )}
          </span>
        </button>
        <div
          className="relative mr-3 flex-1 touch-pan-y"
          {...picker.handlers}
          data-testid={`ridge-${date}`}
        >
          {shown && ridge && <Silhouette shown={shown} totals={ridge.totals} />}
          <Selection span={picker.dragged ?? chosen} window={window} />
        </div>
      </div>
      {open && (
        <DayLanes plan={plan} window={window} labelClass={LABEL} handlers={picker.handlers}>
          <Selection span={picker.dragged ?? chosen} window={window} solid />
        </DayLanes>
      )}
    </div>
  );
}

interface Shown {
  people: number[];
  required: number[];
  resources: number[];
}

function sliceOf(ridge: Ridge, window: Interval): Shown {
  const step = ridge.grid.stepMinutes * MINUTE;
  const from = Math.max(0, Math.round((window.start - ridge.grid.first) / step));
  const to = Math.round((window.end - ridge.grid.first) / step);
  return {
    people: [...ridge.people.slice(from, to)],
    required: [...ridge.required.slice(from, to)],
    resources: [...ridge.resources.slice(from, to)],
  };
}

/** The ridge of one day: its height is the number of free people, its crest where all needed are. */
function Silhouette({ shown, totals }: { shown: Shown; totals: Ridge['totals'] }) {
  const count = shown.people.length;
  const y = (n: number) =>
    RIDGE_PX - 1 - (totals.people ? (n / totals.people) * (RIDGE_PX - 6) : 0);
  const outline = shown.people.map((n, k) => `L${k} ${y(n)}L${k + 1} ${y(n)}`).join('');
  const good = shown.people.flatMap((_, k) =>
    totals.required + totals.resources > 0 &&
    shown.required[k] === totals.required &&
    shown.resources[k] === totals.resources
      ? [k]
      : [],
  );
  return (
    <svg
      viewBox={`0 0 ${count} ${RIDGE_PX}`}
      preserveAspectRatio="none"
      width="100%"
      height={RIDGE_PX}
      aria-hidden="true"
      className="block"
    >
      <path d={`M0 ${RIDGE_PX}${outline}L${count} ${RIDGE_PX}Z`} fill="var(--ridge)" />
      {good.map((k) => (
        <rect
          key={k}
          x={k}
          y={y(shown.people[k]!)}
          width={1.02}
          height={RIDGE_PX - y(shown.people[k]!)}
          fill="var(--lichen)"
        />
      ))}
      <rect x={0} y={RIDGE_PX - 1} width={count} height={1} fill="var(--edge)" />
    </svg>
  );
}

function Selection({
  span,
  window,
  solid = false,
}: {
  span: Interval | null;
  window: Interval;
  solid?: boolean;
}) {
  if (!span || span.start >= window.end || span.end <= window.start) return null;
  const length = window.end - window.start;
  const start = Math.max(span.start, window.start);
  const end = Math.min(span.end, window.end);
  return (
    <div
      className="pointer-events-none absolute inset-y-0 rounded-sm border-2 border-gentian bg-gentian/15"
      style={{
        left: `${((start - window.start) / length) * 100}%`,
        width: `${((end - start) / length) * 100}%`,
      }}
    >
      {solid && (
        <>
          <i className="absolute top-1/2 -left-1 h-6 w-1.5 -translate-y-1/2 rounded-full bg-gentian" />
          <i className="absolute top-1/2 -right-1 h-6 w-1.5 -translate-y-1/2 rounded-full bg-gentian" />
        </>
      )}
    </div>
  );
}

/** Picking a time by pressing and dragging over a day; a press alone keeps the present length. */
function usePicker(plan: Plan, window: Interval) {
  const [drag, setDrag] = useState<{ from: number; to: number } | null>(null);
  const instantAt = (event: PointerEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const raw =
      window.start + ((event.clientX - box.left) / box.width) * (window.end - window.start);
    return Math.min(Math.max(Math.floor(raw / STEP) * STEP, window.start), window.end - STEP);
  };
  const spanOf = ({ from, to }: { from: number; to: number }): Interval =>
    from === to
      ? { start: from, end: from + plan.minutes * MINUTE }
      : { start: Math.min(from, to), end: Math.max(from, to) + STEP };
  return {
    dragged: drag && spanOf(drag),
    handlers: {
      onPointerDown: (event: PointerEvent<HTMLElement>) => {
        if (event.button !== 0) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        const at = instantAt(event);
        setDrag({ from: at, to: at });
      },
      onPointerMove: (event: PointerEvent<HTMLElement>) =>
        drag && setDrag({ ...drag, to: instantAt(event) }),
      onPointerUp: () => {
        if (drag) plan.choose(spanOf(drag));
        setDrag(null);
      },
      onPointerCancel: () => setDrag(null),
    },
  };
}

/** Arrows move the chosen time by a quarter hour, with Shift its end; up and down go by a day. */
export function moveChosen(plan: Plan, event: KeyboardEvent): void {
  const { chosen } = plan;
  if (!chosen) return;
  const by = {
    ArrowLeft: -STEP,
    ArrowRight: STEP,
    ArrowUp: -24 * 60 * MINUTE,
    ArrowDown: 24 * 60 * MINUTE,
  }[event.key];
  if (by === undefined) return;
  event.preventDefault();
  if (!event.shiftKey) plan.choose({ start: chosen.start + by, end: chosen.end + by });
  else if (Math.abs(by) === STEP && chosen.end + by > chosen.start)
    plan.choose({ start: chosen.start, end: chosen.end + by });
}
