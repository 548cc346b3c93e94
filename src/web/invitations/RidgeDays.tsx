import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { DaysAround } from '../../contract/invitations.ts';
import { formatDay, formatSpan, formatTime, type ClockStyle } from '../../core/time/format.ts';
import { HOUR, MINUTE, overlaps, type Interval } from '../../core/time/interval.ts';
import { resolveWallTime, wallTimeAt } from '../../core/time/wall.ts';
import { Silhouette } from '../grid/index.ts';

const STEP = 15 * MINUTE;
const ROW_PX = 30;
/** The hours people use; a meeting outside them widens the picture. */
const USUAL: readonly [number, number] = [7, 20];

type Day = DaysAround['days'][number];

/** What is the same for every day. */
interface Picking {
  total: number;
  zone: string;
  clock: ClockStyle;
  present: Interval;
  chosen: readonly Interval[];
  onToggle: (span: Interval) => void;
}

/** Some days as silhouettes, a row each, on which times of a meeting's length are picked. */
export function RidgeDays({
  days,
  total,
  zone,
  clock,
  present,
  chosen,
  onToggle,
}: Picking & { days: readonly Day[] }) {
  const [first, last] = hoursAround(present, zone);
  const hours = Array.from({ length: Math.floor((last - first) / 2) }, (_, k) => first + 2 * k);
  return (
    <div>
      <div aria-hidden="true" className="ml-19 flex text-[11px] text-ink-2">
        {hours.map((hour) => (
          <span key={hour} style={{ width: `${(2 / (last - first)) * 100}%` }}>
            {hourWords(hour, clock)}
          </span>
        ))}
      </div>
      {days.map((day) => (
        <DayOfRidge
          key={day.date}
          day={day}
          window={{ start: wallOf(day, first, zone), end: wallOf(day, last, zone) }}
          {...{ total, zone, clock, present, chosen, onToggle }}
        />
      ))}
    </div>
  );
}

const hourWords = (hour: number, clock: ClockStyle): string =>
  clock === '24'
    ? String(hour).padStart(2, '0')
    : `${hour % 12 === 0 ? 12 : hour % 12} ${hour < 12 ? 'am' : 'pm'}`;

const wallOf = ({ date }: Day, hour: number, zone: string): number =>
  resolveWallTime(`${date}T${String(Math.min(hour, 23)).padStart(2, '0')}:00`, zone).instant +
  (hour === 24 ? HOUR : 0);

function hoursAround({ start, end }: Interval, zone: string): [number, number] {
  const from = Number(wallTimeAt(start, zone).slice(11, 13));
  const to = from + Math.ceil((end - start) / HOUR);
  return [Math.min(USUAL[0], from), Math.min(24, Math.max(USUAL[1], to))];
}

function DayOfRidge({
  day,
  window,
  total,
  zone,
  clock,
  present,
  chosen,
  onToggle,
}: Picking & { day: Day; window: Interval }) {
  const length = present.end - present.start;
  const last = window.end - Math.min(length, window.end - window.start);
  const [cursor, setCursor] = useState<number | null>(null);
  const at = (instant: number) => Math.min(Math.max(instant, window.start), last);
  const spanFrom = (start: number): Interval => ({ start, end: start + length });
  const instantUnder = (event: PointerEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const raw = ((event.clientX - box.left) / box.width) * (window.end - window.start);
    return at(window.start + Math.floor(raw / STEP) * STEP);
  };
  const counts = day.counts?.slice(
    Math.round((window.start - day.start) / STEP),
    Math.round((window.end - day.start) / STEP),
  );
  const free = (start: number) =>
    day.counts &&
    Math.min(
      ...Array.from({ length: Math.max(1, Math.ceil(length / STEP)) }, (_, k) => {
        return day.counts![Math.round((start - day.start) / STEP) + k] ?? total;
      }),
    );
  const words = (start: number) =>
    `${formatSpan(spanFrom(start), zone, clock)}${day.counts ? `, ${free(start)} of ${total} free` : ''}`;
  const current = cursor ?? at(Math.max(window.start, at(window.start + 2 * HOUR)));
  const onKey = (event: KeyboardEvent) => {
    const step = { ArrowRight: STEP, ArrowLeft: -STEP, PageUp: HOUR, PageDown: -HOUR }[event.key];
    if (step) setCursor(at(current + step));
    else if (event.key === 'Enter' || event.key === ' ') onToggle(spanFrom(current));
    else return;
    event.preventDefault();
  };
  const place = (span: Interval) => ({
    left: `${((span.start - window.start) / (window.end - window.start)) * 100}%`,
    width: `${((span.end - span.start) / (window.end - window.start)) * 100}%`,
  });
  return (
    <div className="flex items-stretch border-t border-edge/60 py-1 first:border-0">
      <span className="w-19 shrink-0 self-center text-[13px] font-semibold whitespace-nowrap">
        {formatDay(day.start, zone)}
      </span>
      <div
        role="slider"
        tabIndex={0}
        aria-label={`A time on ${formatDay(day.start, zone)}; Enter chooses it`}
        aria-valuemin={window.start}
        aria-valuemax={last}
        aria-valuenow={current}
        aria-valuetext={words(current)}
        title={cursor === null ? undefined : words(cursor)}
        className="relative min-h-[30px] flex-1 cursor-pointer touch-pan-y overflow-hidden max-sm:min-h-11"
        onPointerMove={(event) => setCursor(instantUnder(event))}
        onPointerLeave={() => setCursor(null)}
        onBlur={() => setCursor(null)}
        onClick={(event) =>
          onToggle(spanFrom(instantUnder(event as unknown as PointerEvent<HTMLElement>)))
        }
        onKeyDown={onKey}
      >
        {counts ? (
          <Silhouette
            height={ROW_PX}
            slice={{
              people: counts,
              required: counts,
              places: counts.map(() => 0),
              totals: { people: total, required: total, places: 0 },
            }}
          />
        ) : (
          <div className="absolute inset-x-0 bottom-0 h-px bg-edge" />
        )}
        {overlaps(present, window) && (
          <i
            className="pointer-events-none absolute inset-y-0 border border-dashed border-ink"
            style={place(present)}
          />
        )}
        {chosen
          .filter((one) => overlaps(one, window))
          .map((one) => (
            <i
              key={one.start}
              className="pointer-events-none absolute inset-y-0 border-2 border-gentian bg-gentian/10"
              style={place(one)}
            />
          ))}
        {cursor !== null && (
          <>
            <i
              className="pointer-events-none absolute inset-y-0 border border-gentian"
              style={place(spanFrom(cursor))}
            />
            <span
              aria-hidden="true"
              className={`pointer-events-none absolute top-0 bg-sheet px-1 text-[11px] whitespace-nowrap ${cursor - window.start > (window.end - window.start) / 2 ? 'left-0' : 'right-0'}`}
            >
              {formatTime(cursor, zone, clock)}
              {day.counts && `, ${free(cursor)} of ${total} free`}
            </span>
          </>
        )}
      </div>
    </div>
  );
}
