import { memo, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import type { BusyState } from '../../core/availability/busy.ts';
import { LineUpFit } from '../../core/planner/fit.ts';
import type { Ridge } from '../../core/planner/ridge.ts';
import { formatDay, formatTime } from '../../core/time/format.ts';
import { contains, MINUTE, overlaps, type Interval } from '../../core/time/interval.ts';
import { addDays, dateAt, resolveWallTime, wallTimeAt } from '../../core/time/wall.ts';
import { useStable } from '../client/index.ts';
import { DayField } from '../time/index.ts';
import { Button } from '../design/controls.tsx';
import { Select } from '../design/Select.tsx';
import { Tick } from '../design/ticks.tsx';
import { usePhone } from '../design/usePhone.ts';
import { missingWords } from './absenceWords.ts';
import { dayRemarks } from './dayRemarks.ts';
import { dayWindow } from './days.ts';
import { drawnAlike } from './drawnAlike.ts';
import { DayRow, onDay, touchesSpan, type PlanRow } from './DayRow.tsx';
import { Ruler } from './Ruler.tsx';
import { STEP } from './usePicker.ts';
import { FEWEST_DAYS, MOST_DAYS } from '../lineUp/index.ts';
import type { Plan } from './usePlan.ts';
import { counted } from '../../core/counted.ts';

const USUAL_HOURS = [6, 21] as const;
const WHOLE_DAY = [0, 24] as const;
/** Rows are lower the more of them there are, so that they stay one picture. */
const BOARD_PX = 400;
const PHONE_BOARD_PX = 250;
const MOST_ZONES = 4;

/** Which days are looked at. */
type Days = Pick<Plan, 'dates' | 'dayCount' | 'allDays' | 'set' | 'from' | 'today'>;
/** Who is free at a moment. */
type Reading = Pick<Plan, 'me' | 'members' | 'known' | 'read' | 'chosen'>;

/** The days as silhouettes of how many are free; a day opens in place into its lanes. */
export function RidgeBoard({
  plan,
  ridge,
  present,
  whole,
}: {
  plan: Days & Reading & Pick<Plan, 'minutes' | 'choose' | 'window'>;
  ridge: Ridge | null;
  present: Interval | null;
  /** Whether all 24 hours are shown. */
  whole: boolean;
}) {
  const { me, members, dates, chosen, minutes, known, read } = plan;
  const phone = usePhone();
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set());
  const [hovered, setHovered] = useState<number | null>(null);
  const toggle = (date: string) =>
    setOpen((before) => {
      const after = new Set(before);
      if (!after.delete(date)) after.add(date);
      return after;
    });
  const stable = useStable({ toggle, choose: plan.choose, onHover: setHovered });
  const hours = whole ? WHOLE_DAY : USUAL_HOURS;
  // As a text, so that it stays the same when somebody of the same zones is set aside.
  const zoneList = zonesOf(members, [me.zone], me.furtherZones).join();
  const zones = useMemo(() => zoneList.split(','), [zoneList]);
  const remarks = useMemo(() => dayRemarks(dates, members, me), [dates, members, me]);
  const board = phone ? PHONE_BOARD_PX : BOARD_PX;
  const height = Math.min(46, Math.max(phone ? 24 : 18, Math.floor(board / dates.length) - 2));
  const row = useMemo<PlanRow>(
    () => ({
      zones,
      hours,
      height,
      minutes,
      choose: stable.choose,
      onHover: stable.onHover,
      present,
    }),
    [zones, hours, height, minutes, stable, present],
  );
  const chosenDay = chosen && dateAt(chosen.start, me.zone);
  const isOpen = (date: string) => open.has(date) !== (date === chosenDay);
  const someOpen = dates.some(isOpen);
  const isReading = read === null || !contains(read, plan.window);
  const kinds = useMemo(
    () => kindsShown({ members, open: someOpen, ridge, window: known, isRead: !isReading }),
    [members, someOpen, ridge, known, isReading],
  );
  return (
    <section aria-label="When they are free" className="min-w-0">
      <Ruler date={dates[0]!} zones={zones} hours={hours} />
      {dates.map((date) => (
        <DayRow
          key={date}
          row={row}
          ridge={ridge}
          isRead={read !== null && contains(read, dayWindow(date, me.zone, WHOLE_DAY))}
          date={date}
          members={isOpen(date) ? members : null}
          remarks={remarks.get(date)!.text}
          clockChange={remarks.get(date)!.clockChange}
          chosen={touchesSpan(chosen, date, me.zone)}
          hovered={onDay(hovered, date, me.zone)}
          onToggle={stable.toggle}
        />
      ))}
      <Readout plan={plan} hovered={hovered} />
      <Samples kinds={kinds} />
    </section>
  );
}

/** My zone, those of the line-up, and as long as there is room, my further ones. */
function zonesOf(members: Plan['members'], home: string[], further: string[]): string[] {
  const people = members.filter((one) => one.kind === 'person' && !one.setAside && !one.outside);
  const zones = [...home, ...people.map((one) => one.zone), ...further];
  return [...new Set(zones)].slice(0, MOST_ZONES);
}

/** Which days are looked at: from when, how many, working days or all. */
export const DaysBar = memo(function DaysBar({
  plan,
  whole,
  setWhole,
}: {
  plan: Days;
  whole: boolean;
  setWhole: (whole: boolean) => void;
}) {
  const { dates, dayCount, allDays, set, from, today } = plan;
  const step = allDays ? dayCount : Math.round((dayCount / 5) * 7);
  return (
    <div className="flex flex-wrap items-center gap-x-2 gap-y-1 border-b border-edge/60 px-3 py-1.5 text-xs">
      <Button repeats className="px-2 py-1" onClick={() => set({ from: addDays(from, -step) })}>
        Earlier
      </Button>
      <Button className="px-2 py-1" disabled={from === today} onClick={() => set({ from: null })}>
        Today
      </Button>
      <Button repeats className="px-2 py-1" onClick={() => set({ from: addDays(from, step) })}>
        Later
      </Button>
      <DayField
        label="From"
        bare
        className="w-36 [&_input]:py-1"
        value={dates[0]!}
        onChange={(date) => set({ from: date })}
      />
      <Select
        question="Shown"
        className="w-auto py-1"
        value={dayCount}
        onChange={(count) => set({ dayCount: count })}
        options={[...new Set([FEWEST_DAYS, 3, 5, 7, 10, 15, 20, MOST_DAYS, dayCount])]
          .sort((a, b) => a - b)
          .map((count) => ({ value: count, words: counted(count, 'day') }))}
      />
      <Tick label="with days off" on={allDays} onChange={(on) => set({ allDays: on })} />
      <Button
        look="quiet"
        className="ml-auto px-2 py-1"
        aria-pressed={whole}
        onClick={() => setWhole(!whole)}
      >
        {whole ? 'Daytime only' : 'All 24 hours'}
      </Button>
    </div>
  );
}, drawnAlike);

/** Who is missing at the moment under the pointer, the finger or the cursor. */
function Readout({ plan, hovered }: { plan: Reading; hovered: number | null }) {
  const phone = usePhone();
  const { me, members, known, read, chosen } = plan;
  // Laid out when the first moment is asked for, and kept for the next ones.
  const fit = useRef<{ of: Plan['members']; fit: LineUpFit } | null>(null);
  const span = hovered === null ? chosen : { start: hovered, end: hovered + 15 * MINUTE };
  if (!span) {
    return (
      <p className="min-h-9 px-3 py-1 text-xs text-ink-2">
        {phone ? 'Touch' : 'Point at'} a moment to see who is missing then; drag to choose a time.
      </p>
    );
  }
  if (read === null || !contains(read, span)) {
    return (
      <p className="min-h-9 px-3 py-1 text-xs text-ink-2" data-testid="readout">
        <b className="font-semibold">
          {formatDay(span.start, me.zone)} {formatTime(span.start, me.zone, me.clock)}
        </b>
        : everybody’s time is still being read.
      </p>
    );
  }
  if (fit.current?.of !== members)
    fit.current = { of: members, fit: new LineUpFit(members, known) };
  const fits = fit.current.fit.at(span);
  const people = fits.filter((one) => members.find((m) => m.id === one.id)!.kind === 'person');
  const free = people.filter((one) => one.state === 'free').length;
  const missing = missingWords(fits, members, span.start, me);
  return (
    <p className="min-h-9 px-3 py-1 text-xs" data-testid="readout">
      <b className="font-semibold">
        {formatDay(span.start, me.zone)} {formatTime(span.start, me.zone, me.clock)}
      </b>
      , {free} of {people.length} free.{' '}
      <span className="text-ink-2">{missing ? `Without ${missing}.` : 'Nobody is missing.'}</span>
    </p>
  );
}

type Kind =
  'unread' | 'taken' | 'tentative' | 'away' | 'unknown' | 'closed' | 'good' | 'people' | 'places';
const SAMPLES: [Kind, string, string][] = [
  ['unread', 'unread', 'being read'],
  ['good', 'bg-lichen', 'all that is needed is free'],
  ['people', 'border-t-2 border-ink/75 h-0', 'required people'],
  ['places', 'bg-lichen-ink/55 h-[3px]', 'places'],
  ['taken', 'rock', 'taken'],
  ['tentative', 'rock-tentative', 'tentative'],
  ['away', 'rock-away', 'away'],
  ['closed', 'bg-closed', 'outside their hours, or not to be booked'],
  ['unknown', 'unknown border border-edge', 'not known'],
];

const KIND_OF: Record<BusyState, Kind> = {
  busy: 'taken',
  tentative: 'tentative',
  away: 'away',
  unknown: 'unknown',
  barred: 'closed',
};

/** What of all that a picture could hold is in this one. */
function kindsShown({
  members,
  open,
  ridge,
  window,
  isRead,
}: {
  members: Plan['members'];
  /** Whether the lanes of a day are open. */
  open: boolean;
  ridge: Ridge | null;
  window: Interval;
  isRead: boolean;
}): ReadonlySet<Kind> {
  const kinds = new Set<Kind>();
  if (!isRead) kinds.add('unread');
  if (ridge && hasAllFree(ridge)) kinds.add('good');
  if (members.some((one) => one.role === 'optional')) kinds.add('people');
  if (members.some((one) => one.kind === 'resource')) kinds.add('places');
  if (!open) return kinds;
  kinds.add('closed');
  for (const { busy, knowledge } of members) {
    if (knowledge === 'none') kinds.add('unknown');
    for (const span of busy) {
      if (overlaps(span, window)) kinds.add(KIND_OF[span.occupancy]);
    }
  }
  return kinds;
}

/** Whether all that is needed is free in some quarter hour. */
function hasAllFree({ required, places, totals }: Ridge): boolean {
  return required.some((count, k) => count === totals.required && places[k] === totals.places);
}

function Samples({ kinds }: { kinds: ReadonlySet<Kind> }) {
  return (
    <div className="flex min-h-7 flex-wrap items-center gap-x-3.5 gap-y-1 px-3 pb-2 text-xs text-ink-2">
      {SAMPLES.filter(([kind]) => kinds.has(kind)).map(([kind, look, words]) => (
        <Sample key={kind} look={look}>
          {words}
        </Sample>
      ))}
    </div>
  );
}

function Sample({ look, children }: { look: string; children: string }) {
  return (
    <span className="flex items-center gap-1.5">
      <i aria-hidden="true" className={`inline-block h-3 w-5 ${look}`} />
      {children}
    </span>
  );
}

/** Arrows move the chosen time by a quarter hour, with Shift its end; up and down go by a day. */
export function moveChosen(
  plan: Pick<Plan, 'chosen' | 'me' | 'choose'>,
  event: KeyboardEvent,
): void {
  const { chosen, me } = plan;
  const quarters = { ArrowLeft: -STEP, ArrowRight: STEP }[event.key];
  const days = { ArrowUp: -1, ArrowDown: 1 }[event.key];
  if (!chosen || (quarters === undefined && days === undefined)) return;
  event.preventDefault();
  const { start, end } = chosen;
  if (quarters !== undefined && event.shiftKey) {
    if (end + quarters > start) plan.choose({ start, end: end + quarters });
    return;
  }
  const moved = quarters !== undefined ? start + quarters : daysOn(start, days!, me.zone);
  plan.choose({ start: moved, end: moved + end - start });
}

/** The same time of day some days later, whatever the clocks do in between. */
function daysOn(instant: number, days: number, zone: string): number {
  const wall = wallTimeAt(instant, zone);
  return resolveWallTime(`${addDays(wall.slice(0, 10), days)}${wall.slice(10)}`, zone).instant;
}
