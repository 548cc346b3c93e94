import type { Shift, WorkingHours } from '../time/workingHours.ts';

const NAMES = ['monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday', 'sunday'];
const DASH = /[–-]/;
/** Longer texts are no opening hours: each weekday with three shifts of its own takes half of it. */
const LONGEST = 500;

/**
 * Opening hours as `openWords` writes them on a clock of 24 hours, `Mon–Fri 08:00–18:00, Sat 9–12`; a
 * semicolon separates days as well, and `never` is no day at all.
 * @returns Monday first; null where the text is none
 */
export function readOpen(text: string): WorkingHours | null {
  const open = NAMES.map((): Shift[] => []);
  const written = text.trim();
  if (written.length > LONGEST) return null;
  if (written.toLowerCase() === 'never') return open;
  for (const part of written.split(/[,;]/)) {
    // Hours begin with the first digit, or are all day.
    const begin = part.search(/\d|all day/i);
    const days = begin < 0 ? null : readDays(part.slice(0, begin));
    const hours = begin < 0 ? null : readHours(part.slice(begin));
    if (!days || !hours) return null;
    for (const day of days) {
      if (open[day]!.length > 0) return null;
      open[day] = hours;
    }
  }
  return open;
}

/** 0 for Monday to 6 for Sunday. */
function readDays(text: string): number[] | null {
  const ends = text.split(DASH).map((name) => {
    const begin = name.trim().toLowerCase();
    return begin.length < 3 ? -1 : NAMES.findIndex((day) => day.startsWith(begin));
  });
  const [first, last = first] = ends as [number, number?];
  if (first < 0 || last < first) return null;
  return Array.from({ length: last - first + 1 }, (_, k) => first + k);
}

function readHours(text: string): Shift[] | null {
  if (text.trim().toLowerCase() === 'all day') return [{ start: 0, end: 1440 }];
  const shifts = text.split(/\band\b/i).map((one): Shift | null => {
    const [start, end, ...more] = one.split(DASH).map(readMinute);
    if (typeof start !== 'number' || typeof end !== 'number') return null;
    if (more.length > 0 || start === 1440) return null;
    // What ends no later than it begins runs into the next day.
    return { start, end: end > start ? end : end + 1440 };
  });
  return shifts.every((one) => one !== null) ? shifts : null;
}

/** Minutes after midnight. */
function readMinute(text: string): number | null {
  const found = /^(\d{1,2})(?:[:.](\d{2}))?$/.exec(text.trim());
  if (!found) return null;
  const minutes = Number(found[1]) * 60 + Number(found[2] ?? 0);
  return minutes <= 1440 && Number(found[2] ?? 0) < 60 ? minutes : null;
}
