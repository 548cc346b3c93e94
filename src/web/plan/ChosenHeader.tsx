import { useTypedOver } from '../design/useTypedOver.ts';
import { useMemo } from 'react';
import { termInWords } from '../../core/booking/ruleWords.ts';
import { fitOf, type FitState } from '../../core/planner/fit.ts';
import { pickRooms } from '../../core/planner/rooms.ts';
import type { WeeklyTime } from '../../core/planner/series.ts';
import { listNames } from '../../core/planner/words.ts';
import { formatDay, formatMinute, formatSpan, formatTime } from '../../core/time/format.ts';
import { MINUTE, type Interval } from '../../core/time/interval.ts';
import { formatTimeOfDay, parseLength, parseTimeOfDay } from '../../core/time/typedTime.ts';
import { dateAt, resolveWallTime, wallTimeAt } from '../../core/time/wall.ts';
import { DayField } from '../time/index.ts';
import { TextInput } from '../design/controls.tsx';
import type { Plan } from './usePlan.ts';
import { weeklyWords } from './weekly.ts';
import { placeName } from './zoneNames.ts';

/** A time that is typed. */
type Typing = Pick<Plan, 'me' | 'now' | 'chosen' | 'minutes' | 'dates' | 'choose' | 'set'>;
/** A time held against the line-up. */
type Fitting = Pick<
  Plan,
  'asked' | 'set' | 'now' | 'chosen' | 'isChosenRead' | 'members' | 'wishes' | 'data'
>;

/** What a meeting is called, while it is typed; of one that is given a new time, what it is called. */
export function TitleField({
  title,
  typing,
  moving,
  className = '',
}: {
  title: string;
  typing: { setTitle: (title: string) => void; keep: () => void };
  moving: boolean;
  className?: string;
}) {
  if (moving) return <p className={`font-head font-semibold ${className}`}>{title}</p>;
  return (
    <input
      aria-label="Title of the meeting"
      placeholder="What is it about?"
      maxLength={200}
      value={title}
      onChange={(event) => typing.setTitle(event.target.value)}
      onBlur={typing.keep}
      className={`border-b border-edge bg-transparent font-head font-semibold placeholder:font-normal placeholder:text-ink-2 ${className}`}
    />
  );
}

/** The chosen time in full: typed or shown, in everybody's zone, with what is wrong about it. */
export function ChosenHeader({
  plan,
  title,
  typing,
  weekly,
  present,
  held,
}: Shown & {
  plan: Typing;
  held: boolean;
  title: string;
  typing: { setTitle: (title: string) => void; keep: () => void };
}) {
  return (
    <div className="min-w-0 flex-1">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1.5">
        <TitleField
          title={title}
          typing={typing}
          moving={plan.moving !== null}
          className="min-w-56 flex-1 text-[22px] leading-8 md:max-w-md"
        />
        <TypedTimesFields plan={plan} held={held} />
      </div>
      <ChosenWords plan={plan} weekly={weekly} present={present} />
    </div>
  );
}

interface Shown {
  plan: Fitting & Pick<Plan, 'me' | 'moving'>;
  /** The series that the chosen time begins, if it is one. */
  weekly: WeeklyTime | null;
  /** When a meeting that is given a new time is now. */
  present: Interval | null;
}

/** The chosen time in words, in everybody's zone, with what is wrong about it. */
export function ChosenWords({ plan, weekly, present }: Shown) {
  const { me, chosen } = plan;
  return (
    <>
      <NotUnderstood plan={plan} />
      {present && (
        <p className="text-ink-2">
          Now {formatSpan(present, me.zone, me.clock)}. A new time for it:
        </p>
      )}
      {chosen ? (
        <p className="mt-1">
          <b className="bg-lichen-wash px-1 font-head text-[17px] font-semibold">
            {weekly
              ? `${weeklyWords(weekly, me.clock)}, from ${formatDay(weekly.dates[0]!.start, me.zone)} to ${formatDay(weekly.dates.at(-1)!.start, me.zone)}`
              : formatSpan(chosen, me.zone, me.clock)}
          </b>{' '}
          <Zones plan={plan} />
        </p>
      ) : (
        <p className="mt-1 text-ink-2">Choose an opening, drag over a day, or type the time.</p>
      )}
      {chosen && !plan.isChosenRead && (
        <p role="status" className="text-ink-2">
          Reading everybody’s time …
        </p>
      )}
      {chosen && plan.isChosenRead && (weekly ? <WorksOn weekly={weekly} /> : <Fits plan={plan} />)}
    </>
  );
}

/** What a sentence said that nothing was made of; it stays until somebody has seen to it. */
function NotUnderstood({ plan: { asked, set } }: { plan: Pick<Plan, 'asked' | 'set'> }) {
  if (!asked.unread) return null;
  return (
    <p className="mt-1 inline-flex max-w-full items-center gap-1 rounded-full border border-dashed border-alpenglow py-0.5 pr-1 pl-2.5 text-alpenglow">
      <span className="truncate">
        <span className="text-xs">not understood: </span>
        <b className="font-semibold">{asked.unread}</b>
      </span>
      <button
        type="button"
        className="grid size-6 place-items-center rounded-full hover:bg-gentian-wash"
        onClick={() => set({ unread: '' })}
        aria-label={`Leave out ${asked.unread}`}
      >
        ×
      </button>
    </p>
  );
}

/** The time where each of the line-up is, one mention a zone. */
function Zones({ plan }: { plan: Pick<Plan, 'me' | 'members' | 'chosen'> }) {
  const { me, members, chosen } = plan;
  const people = members.filter((one) => one.kind === 'person' && !one.setAside && !one.outside);
  const zones = [...new Set(people.map((one) => one.zone))];
  const home = dateAt(chosen!.start, me.zone);
  return (
    <span>
      {[me.zone, ...zones.filter((zone) => zone !== me.zone)].map((zone, k) => {
        const otherDay = dateAt(chosen!.start, zone) !== home;
        return (
          <span key={zone} className={k === 0 ? 'font-semibold' : 'text-ink-2'}>
            {k > 0 && ' · '}
            {otherDay && `${formatDay(chosen!.start, zone)} `}
            {formatTime(chosen!.start, zone, me.clock)} {placeName(zone, me.zoneNames)}
          </span>
        );
      })}
    </span>
  );
}

const TROUBLES: [FitState, string][] = [
  ['busy', 'taken'],
  ['barred', 'cannot be booked then'],
  ['away', 'away'],
  ['tentative', 'tentative'],
  ['holiday', 'a public holiday'],
  ['outside', 'outside working hours'],
  ['unknown', 'not known'],
];

/** The rooms that go with it, and what is wrong about the time, if anything is. */
function Fits({ plan }: { plan: Fitting }) {
  const { members, chosen, wishes, data } = plan;
  const fits = useMemo(() => fitOf(members, chosen!), [members, chosen]);
  const nameOf = (id: number) => members.find((one) => one.id === id)!.name;
  const parts = TROUBLES.flatMap(([state, words]) => {
    const names = fits
      .filter((fit) => fit.state === state && !fit.broken)
      .map((fit) => nameOf(fit.id));
    return names.length ? [`${listNames(names)}: ${words}`] : [];
  });
  for (const { id, broken } of fits) if (broken) parts.push(`${nameOf(id)} ${termInWords(broken)}`);
  const picked = pickRooms(members, wishes, data.rooms, chosen!);
  const rooms = picked.flatMap(({ room, site }) => (room ? [`${room.name} (${site})`] : []));
  const roomless = picked.filter(({ room }) => !room).map(({ site }) => site);
  if (roomless.length) parts.push(`${listNames(roomless)}: no fitting room free`);
  if (chosen!.start < plan.now) parts.push('This time is over');
  return (
    <p role="status">
      {rooms.length > 0 && <span className="text-ink-2">In {rooms.join(' and ')}. </span>}
      <span className={parts.length ? 'font-medium text-alpenglow' : 'text-lichen-ink'}>
        {parts.length ? parts.join('. ') : 'Everyone and everything in the line-up is free.'}
      </span>
    </p>
  );
}

function WorksOn({ weekly }: { weekly: WeeklyTime }) {
  const failing = weekly.failing.length;
  return (
    <p role="status" className={failing ? 'font-medium text-alpenglow' : 'text-lichen-ink'}>
      {failing === 0
        ? weekly.dates.length === 1
          ? 'Works on its one date.'
          : `Works on all ${weekly.dates.length} dates.`
        : `Works on ${weekly.dates.length - failing} of ${weekly.dates.length} dates; choose under Weekly times what to do about the others.`}
    </p>
  );
}

/** An end before the start is the next day's up to this length; beyond it, it is a slip. Minutes. */
const LONGEST_NIGHT = 720;

/** From a start to an end of the same day or of the next night; null where that is no length. Minutes. */
function lengthUntil(start: number, end: number): number | null {
  if (end > start) return end - start;
  const night = end - start + 1440;
  return night <= LONGEST_NIGHT ? night : null;
}

/** Day, start and end or length as people type them, in step with what is dragged. */
export function TypedTimesFields({
  plan,
  held = false,
}: {
  plan: Typing;
  /** While the meeting that is given a new time is read, no time can be typed. */
  held?: boolean;
}) {
  const { me, chosen, minutes, choose, set, now } = plan;
  const wall = chosen ? wallTimeAt(chosen.start, me.zone) : '';
  const wallEnd = chosen ? wallTimeAt(chosen.end, me.zone).slice(11) : '';
  const day = wall.slice(0, 10) || plan.dates[0]!;
  const shown = (text: string) => {
    const minute = parseTimeOfDay(text);
    return minute === null ? text : formatMinute(minute, me.clock);
  };
  const [time, setTime] = useTypedOver(shown(wall.slice(11)));
  const [end, setEnd] = useTypedOver(shown(wallEnd));
  const [length, setLength] = useTypedOver(String(minutes));

  const [hours, mins] = wallTimeAt(now, me.zone).slice(11).split(':').map(Number);
  const present = hours! * 60 + mins!;
  const read = (text: string) => parseTimeOfDay(text, present);
  const [typedStart, typedEnd] = [read(time), read(end)];
  const isBackwards =
    typedStart !== null && typedEnd !== null && lengthUntil(typedStart, typedEnd) === null;
  const wrong =
    time.trim() && read(time) === null
      ? 'a start such as 10:45 or 1045'
      : end.trim() && read(end) === null
        ? 'an end such as 11:30'
        : isBackwards
          ? 'an end after the start'
          : parseLength(length) === null
            ? 'a length such as 45 or 1h30'
            : null;
  const takeAt = (date: string, long: number) => {
    const start = read(time);
    if (start === null) return set({ minutes: long });
    const { instant } = resolveWallTime(`${date}T${formatTimeOfDay(start)}`, me.zone);
    choose({ start: instant, end: instant + long * MINUTE });
  };
  /** The start keeps the length; the end gives it, on the next day where it is earlier. */
  const take = () => {
    const long = parseLength(length);
    if (long !== null) takeAt(day, long);
  };
  const takeEnd = () => {
    const [from, to] = [read(time), read(end)];
    if (from === null || to === null || end === shown(wallEnd)) return;
    const long = lengthUntil(from, to);
    if (long !== null) takeAt(day, long);
  };
  const submit = (event: React.FormEvent) => {
    event.preventDefault();
    take();
  };
  return (
    <form onSubmit={submit}>
      <fieldset disabled={held} className="flex flex-wrap items-center gap-1.5">
        <DayField
          label="Day"
          bare
          className="w-40"
          value={day}
          onChange={(date) => {
            const long = parseLength(length);
            if (time && long !== null) takeAt(date, long);
            else set({ from: date });
          }}
        />
        <TextInput
          aria-label="Start"
          placeholder="10:45"
          aria-invalid={!!time.trim() && read(time) === null}
          className={me.clock === '12' ? 'w-22' : 'w-16'}
          value={time}
          onChange={(event) => setTime(event.target.value)}
          onBlur={take}
        />
        <span className="text-ink-2">to</span>
        <TextInput
          aria-label="End"
          placeholder="11:30"
          aria-invalid={!!end.trim() && read(end) === null}
          className={me.clock === '12' ? 'w-22' : 'w-16'}
          value={end}
          onChange={(event) => setEnd(event.target.value)}
          onBlur={takeEnd}
          onKeyDown={(event) => {
            if (event.key !== 'Enter') return;
            event.preventDefault();
            takeEnd();
          }}
        />
        <TextInput
          aria-label="Length"
          aria-invalid={parseLength(length) === null}
          className="w-14"
          value={length}
          onChange={(event) => setLength(event.target.value)}
          onBlur={take}
        />
        <span className="text-ink-2">min</span>
        <button type="submit" className="sr-only">
          Take these times
        </button>
        {wrong && (
          <span role="alert" className="text-xs font-semibold text-alpenglow">
            {wrong}
          </span>
        )}
      </fieldset>
    </form>
  );
}
