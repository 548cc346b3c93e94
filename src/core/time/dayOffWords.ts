import { formatMinute, type ClockStyle } from './format.ts';
import type { Holiday, Shift } from './workingHours.ts';

/** A part of a day by somebody's clock: `from 12:00`, `until 12:00`, `10:00–14:00`. */
export function partInWords({ start, end }: Shift, clock: ClockStyle): string {
  const at = (minute: number) => formatMinute(minute, clock);
  if (end >= 1440) return `from ${at(start)}`;
  return start <= 0 ? `until ${at(end)}` : `${at(start)}–${at(end)}`;
}

/** A day off by its name, and what of it is off where that is not all: `Christmas Eve, from 12:00`. */
export const holidayInWords = (
  { name, part }: Pick<Holiday, 'name' | 'part'>,
  clock: ClockStyle,
): string => (part ? `${name}, ${partInWords(part, clock)}` : name);
