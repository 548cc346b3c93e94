/**
 * Reads a time of day as people type it: 10:45, 1045, 10.45, 10:45am, 9, 22h, 22h30, noon, now,
 * in 20 min.
 * @param now minutes after midnight at present, for what is said from now on
 * @returns minutes after midnight, or null when it is not a time of day
 */
export function parseTimeOfDay(text: string, now?: number): number | null {
  const typed = text.trim().toLowerCase().replace(/\s+/g, '');
  if (typed === 'noon') return 12 * 60;
  if (typed === 'midnight') return 0;
  if (now !== undefined) {
    if (typed === 'now') return now;
    const ahead = typed.startsWith('in') ? parseLength(typed.slice(2)) : null;
    if (ahead !== null) return (now + ahead) % 1440;
  }
  const match =
    /^(\d{1,2})(?:[:.h](\d{2})?)?(am|pm|a|p)?$/.exec(typed) ??
    /^(\d{1,2})(\d{2})(am|pm|a|p)?$/.exec(typed);
  if (!match) return null;
  let hour = Number(match[1]);
  const minute = Number(match[2] ?? 0);
  const half = match[3]?.[0];
  if (half) {
    if (hour < 1 || hour > 12) return null;
    hour = (hour % 12) + (half === 'p' ? 12 : 0);
  }
  return hour <= 23 && minute <= 59 ? hour * 60 + minute : null;
}

/**
 * Reads a length: 45, 45m, 1h, 1h30, 1:30, 1.5h.
 * @returns minutes, at least 1, or null when it is not a length
 */
export function parseLength(text: string): number | null {
  const typed = text.trim().toLowerCase().replace(/\s+/g, '');
  const minutes =
    matchNumber(/^(\d+)(?:m|min|minutes?)?$/, typed, (m) => Number(m[1])) ??
    matchNumber(/^(\d+(?:[.,]\d+)?)(?:h|hours?)$/, typed, (m) =>
      Math.round(Number(m[1]!.replace(',', '.')) * 60),
    ) ??
    matchNumber(/^(\d+)[h:](\d{1,2})m?(?:in)?$/, typed, (m) => Number(m[1]) * 60 + Number(m[2]));
  return minutes !== null && minutes >= 1 ? minutes : null;
}

function matchNumber(
  pattern: RegExp,
  text: string,
  read: (match: RegExpExecArray) => number,
): number | null {
  const match = pattern.exec(text);
  return match ? read(match) : null;
}

/** 645 as `10:45`; minutes after midnight, 0 to 1439 (1440 shows as 24:00). */
export const formatTimeOfDay = (minutes: number): string =>
  `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;
