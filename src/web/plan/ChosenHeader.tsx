import { useEffect, useState } from 'react';
import { fitOf, type Fit } from '../../core/planner/fit.ts';
import { listNames } from '../../core/planner/words.ts';
import { formatDay, formatSpan, formatTime, zoneCity } from '../../core/time/format.ts';
import { formatTimeOfDay, parseLength, parseTimeOfDay } from '../../core/time/typedTime.ts';
import { MINUTE } from '../../core/time/interval.ts';
import { dateAt, isDate, resolveWallTime, wallTimeAt } from '../../core/time/wall.ts';
import { TextInput } from '../design/controls.tsx';
import type { Plan } from './usePlan.ts';

/** The chosen time in full: typed or shown, in everybody's zone, with what is wrong about it. */
export function ChosenHeader({
  plan,
  title,
  setTitle,
}: {
  plan: Plan;
  title: string;
  setTitle: (title: string) => void;
}) {
  const { me, chosen } = plan;
  return (
    <div className="min-w-0 flex-1">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
        <input
          aria-label="Title of the meeting"
          placeholder="What is it about?"
          maxLength={200}
          value={title}
          onChange={(event) => setTitle(event.target.value)}
          className="min-w-56 flex-1 border-b border-edge bg-transparent font-head text-[22px] font-semibold placeholder:font-normal placeholder:text-ink-2 md:max-w-md"
        />
        <TypedTimes plan={plan} />
      </div>
      {chosen ? (
        <p className="mt-1.5">
          <b className="bg-lichen-wash px-1 font-head text-[17px] font-semibold">
            {formatSpan(chosen, me.zone, me.clock)}
          </b>{' '}
          <Zones plan={plan} />
        </p>
      ) : (
        <p className="mt-1.5 text-ink-2">Choose an opening, drag over a day, or type the time.</p>
      )}
      {chosen && <Fits plan={plan} />}
    </div>
  );
}

/** The time where each of the line-up is, one mention a zone. */
function Zones({ plan }: { plan: Plan }) {
  const { me, members, chosen } = plan;
  const zones = [
    ...new Set(
      members.filter((one) => one.kind === 'person' && !one.setAside).map((one) => one.zone),
    ),
  ];
  const home = dateAt(chosen!.start, me.zone);
  return (
    <span>
      {[me.zone, ...zones.filter((zone) => zone !== me.zone)].map((zone, k) => {
        const otherDay = dateAt(chosen!.start, zone) !== home;
        return (
          <span key={zone} className={k === 0 ? 'font-semibold' : 'text-ink-2'}>
            {k > 0 && ' · '}
            {otherDay && `${formatDay(chosen!.start, zone)} `}
            {formatTime(chosen!.start, zone, me.clock)} {me.zoneNames[zone] ?? zoneCity(zone)}
          </span>
        );
      })}
    </span>
  );
}

const TROUBLES: [Fit['state'], string][] = [
  ['busy', 'taken'],
  ['away', 'away'],
  ['tentative', 'tentative'],
  ['outside', 'outside working hours'],
  ['unknown', 'not known'],
];

function Fits({ plan }: { plan: Plan }) {
  const { members, chosen } = plan;
  const fits = fitOf(members, chosen!);
  const parts = TROUBLES.flatMap(([state, words]) => {
    const names = fits
      .filter((fit) => fit.state === state)
      .map((fit) => members.find((one) => one.id === fit.id)!.name);
    return names.length ? [`${listNames(names)}: ${words}`] : [];
  });
  return (
    <p role="status" className={parts.length ? 'font-medium text-alpenglow' : 'text-lichen-ink'}>
      {parts.length ? parts.join('. ') : 'Everyone and everything in the line-up is free.'}
    </p>
  );
}

/** Day, start and length as people type them, in step with what is dragged. */
function TypedTimes({ plan }: { plan: Plan }) {
  const { me, chosen, minutes, choose, set } = plan;
  const wall = chosen ? wallTimeAt(chosen.start, me.zone) : `${plan.dates[0]}T`;
  const [day, setDay] = useState(wall.slice(0, 10));
  const [time, setTime] = useState(wall.slice(11));
  const [length, setLength] = useState(String(minutes));
  useEffect(() => {
    setDay(wall.slice(0, 10));
    setTime(wall.slice(11));
  }, [wall]);
  useEffect(() => setLength(String(minutes)), [minutes]);

  const timeWrong = time.trim() !== '' && parseTimeOfDay(time) === null;
  const lengthWrong = parseLength(length) === null;
  const take = (nextDay = day) => {
    const start = parseTimeOfDay(time);
    const long = parseLength(length);
    if (long === null) return;
    if (start === null || !isDate(nextDay)) set({ minutes: long });
    else {
      const { instant } = resolveWallTime(`${nextDay}T${formatTimeOfDay(start)}`, me.zone);
      choose({ start: instant, end: instant + long * MINUTE });
    }
  };
  return (
    <form
      className="flex items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        take();
      }}
    >
      <TextInput
        type="date"
        aria-label="Day"
        className="w-36"
        value={day}
        onChange={(event) => {
          setDay(event.target.value);
          if (time) take(event.target.value);
        }}
      />
      <TextInput
        aria-label="Start"
        placeholder="10:45"
        title={timeWrong ? 'Type a time such as 10:45, 1045 or 10:45am' : undefined}
        aria-invalid={timeWrong}
        className="w-20"
        value={time}
        onChange={(event) => setTime(event.target.value)}
        onBlur={() => take()}
      />
      <TextInput
        aria-label="Length"
        title={lengthWrong ? 'Type a length such as 45, 1h or 1:30' : undefined}
        aria-invalid={lengthWrong}
        className="w-16"
        value={length}
        onChange={(event) => setLength(event.target.value)}
        onBlur={() => take()}
      />
      <span className="text-ink-2">min</span>
      <button type="submit" className="sr-only">
        Take these times
      </button>
      {(timeWrong || lengthWrong) && (
        <span role="alert" className="text-xs font-semibold text-alpenglow">
          {timeWrong ? 'a time such as 10:45 or 1045' : 'a length such as 45 or 1h30'}
        </span>
      )}
    </form>
  );
}
