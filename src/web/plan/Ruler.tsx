import { formatOffset, formatTime, zoneCity } from '../../core/time/format.ts';
import { MINUTE } from '../../core/time/interval.ts';
import { useMe } from '../client/index.ts';
import { usePhone } from '../design/usePhone.ts';
import { dayWindow, type Hours } from './days.ts';

export const LABEL = 'w-[6.25rem] shrink-0 pl-3';

/** Hours of a date on the clocks of several zones, the first in bold. */
export function Ruler({
  date,
  zones,
  hours,
}: {
  date: string;
  zones: readonly string[];
  hours: Hours;
}) {
  const me = useMe();
  const step = usePhone() ? 4 : 2;
  const day = dayWindow(date, me.zone, hours);
  const marks: number[] = [];
  for (let hour = hours[0]; hour < hours[1]; hour += step) marks.push(hour);
  const brief = (instant: number, zone: string) =>
    formatTime(instant, zone, me.clock)
      .replace(/^0?(\d+):00 ?/, '$1 ')
      .trim();
  return (
    <div className="py-1 text-[11px]" aria-hidden="true">
      {zones.map((zone, k) => (
        <div key={zone} className="flex" title={formatOffset(day.start, zone)}>
          <span className={`${LABEL} truncate ${k === 0 ? 'font-semibold' : 'text-ink-2'}`}>
            {me.zoneNames[zone] ?? zoneCity(zone)}
          </span>
          <div className="relative mr-3 h-4 flex-1">
            {marks.map((hour) => (
              <span
                key={hour}
                className={`absolute -translate-x-1/2 first:translate-x-0 ${k === 0 ? 'font-semibold' : 'text-ink-2'}`}
                style={{ left: `${((hour - hours[0]) / (hours[1] - hours[0])) * 100}%` }}
              >
                {brief(day.start + (hour - hours[0]) * 60 * MINUTE, zone)}
              </span>
            ))}
          </div>
        </div>
      ))}
    </div>
  );
}
