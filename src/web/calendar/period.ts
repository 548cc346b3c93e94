import { addDays, addMonths, isDate, startOfWeek } from '../../core/time/wall.ts';

export const VIEW_KINDS = ['day', 'days', 'work', 'week', 'month', 'year', 'agenda'] as const;
export type ViewKind = (typeof VIEW_KINDS)[number];

export const VIEW_NAMES: Record<ViewKind, string> = {
  day: 'Day',
  days: 'Days',
  work: 'Work week',
  week: 'Week',
  month: 'Month',
  year: 'Year',
  agenda: 'Agenda',
};

export const FEWEST_SHOWN_DAYS = 2;
export const MOST_SHOWN_DAYS = 14;
const AGENDA_DAYS = 28;

/** What a view of the calendar shows, as its address says. */
export interface Period {
  kind: ViewKind;
  /** The date that was asked for; the view shows the period it falls in. */
  date: string;
  /** Dates shown as columns or cells, in order. */
  dates: string[];
  /** Days of a `days` view. */
  days: number;
}

interface Habits {
  firstWeekday: number;
  /** ISO weekdays with working hours. */
  workingDays: readonly number[];
  today: string;
  phone: boolean;
}

const run = (first: string, count: number): string[] =>
  Array.from({ length: count }, (_, k) => addDays(first, k));

const weekdayFrom = (first: string, weekday: number): string =>
  addDays(startOfWeek(first), weekday - 1);

/** Reads a view from its address; what is missing or makes no sense is taken as usual. */
export function readPeriod(params: URLSearchParams, habits: Habits): Period {
  const asked = params.get('view') as ViewKind | null;
  const usual = habits.phone ? 'days' : 'week';
  const kind = asked && VIEW_KINDS.includes(asked) ? asked : usual;
  const askedDate = params.get('date');
  const date = askedDate && isDate(askedDate) ? askedDate : habits.today;
  const askedDays = Number(params.get('days'));
  const days =
    askedDays >= FEWEST_SHOWN_DAYS && askedDays <= MOST_SHOWN_DAYS ? Math.floor(askedDays) : 3;
  return { kind, date, days, dates: datesOf(kind, date, days, habits) };
}

function datesOf(kind: ViewKind, date: string, days: number, habits: Habits): string[] {
  const weekStart = startOfWeek(date, habits.firstWeekday);
  switch (kind) {
    case 'day':
      return [date];
    case 'days':
      return run(date, days);
    case 'work': {
      const monday = startOfWeek(date);
      const working = habits.workingDays.length ? habits.workingDays : [1, 2, 3, 4, 5];
      return working.map((weekday) => weekdayFrom(monday, weekday));
    }
    case 'week':
      return run(weekStart, 7);
    case 'month': {
      const first = `${date.slice(0, 7)}-01`;
      const start = startOfWeek(first, habits.firstWeekday);
      const last = addDays(addMonths(first, 1), -1);
      const weeks = Math.ceil((daysApart(start, last) + 1) / 7);
      return run(start, weeks * 7);
    }
    case 'year':
      return run(
        `${date.slice(0, 4)}-01-01`,
        daysApart(`${date.slice(0, 4)}-01-01`, `${Number(date.slice(0, 4)) + 1}-01-01`),
      );
    case 'agenda':
      return run(date, AGENDA_DAYS);
  }
}

const daysApart = (from: string, to: string): number =>
  Math.round((Date.parse(`${to}T00:00Z`) - Date.parse(`${from}T00:00Z`)) / 86_400_000);

/** The date to ask for, to see the period before (-1) or after (1). */
export function stepFrom(period: Period, steps: -1 | 1): string {
  const { kind, date, days } = period;
  switch (kind) {
    case 'day':
      return addDays(date, steps);
    case 'days':
      return addDays(date, steps * days);
    case 'work':
    case 'week':
      return addDays(date, steps * 7);
    case 'month':
      return addMonths(`${date.slice(0, 7)}-01`, steps);
    case 'year':
      return addMonths(date, 12 * steps);
    case 'agenda':
      return addDays(date, steps * AGENDA_DAYS);
  }
}

const MONTHS =
  'January February March April May June July August September October November December'.split(
    ' ',
  );
const WEEKDAYS = 'Mon Tue Wed Thu Fri Sat Sun'.split(' ');

const dayName = (date: string): string => {
  const weekday = WEEKDAYS[(new Date(`${date}T00:00Z`).getUTCDay() + 6) % 7]!;
  return `${weekday} ${Number(date.slice(8))} ${MONTHS[Number(date.slice(5, 7)) - 1]!.slice(0, 3)}`;
};

/** The same in little room: `24–26 Nov`, `30 Nov – 2 Dec`, `Tue 24 Nov`. */
export function briefTitle(period: Period): string {
  const { kind, dates } = period;
  const [first, last] = [dates[0]!, dates.at(-1)!];
  if (kind === 'year' || kind === 'month') return periodTitle(period, period.date);
  if (first === last) return dayName(first);
  const [from, to] = [dayName(first).slice(4), dayName(last).slice(4)];
  return first.slice(0, 7) === last.slice(0, 7)
    ? `${Number(first.slice(8))}–${to}`
    : `${from} – ${to}`;
}

/**
 * The heading of a view: `Mon 23 – Sun 29 Nov`, `Mon 28 Dec – Sun 3 Jan 2027`, `November 2026`, `2026`.
 * @param today `YYYY-MM-DD`, whose year need not be said
 */
export function periodTitle({ kind, date, dates }: Period, today: string): string {
  if (kind === 'year') return date.slice(0, 4);
  if (kind === 'month') return `${MONTHS[Number(date.slice(5, 7)) - 1]} ${date.slice(0, 4)}`;
  const [first, last] = [dates[0]!, dates.at(-1)!];
  const yearOf = (day: string) => (day.startsWith(today.slice(0, 4)) ? '' : ` ${day.slice(0, 4)}`);
  if (first === last) return `${dayName(first)}${yearOf(first)}`;
  if (first.slice(0, 7) === last.slice(0, 7))
    return `${dayName(first).slice(0, -4)} – ${dayName(last)}${yearOf(last)}`;
  const year = first.slice(0, 4) === last.slice(0, 4) ? '' : yearOf(first);
  return `${dayName(first)}${year} – ${dayName(last)}${yearOf(last)}`;
}
