import type { RememberedLineUp } from '../../contract/lineUps.ts';
import { USUAL_STRETCH_MINUTES, type Wishes, type ZoneStretch } from '../../core/planner/wishes.ts';
import { addressKey, isMailAddress } from '../../core/mailAddress.ts';
import { isDate } from '../../core/time/wall.ts';
import { isZone } from '../../core/time/zones.ts';

/** One of a line-up as the address of a plan keeps it: by id, or by an outside mail address. */
export interface LineUpEntry {
  id: number;
  /** Of somebody outside, who has no id but a negative number by which the planner knows them. */
  email?: string;
  role: 'required' | 'optional';
  setAside: boolean;
}

export const required = (id: number): LineUpEntry => ({ id, role: 'required', setAside: false });

/** Somebody outside; their number is given when the line-up is read. */
export const outsider = (email: string, role: LineUpEntry['role'] = 'required'): LineUpEntry => ({
  id: -1,
  email,
  role,
  setAside: false,
});

/** One of a remembered line-up. */
export const recalled = (one: RememberedLineUp['members'][number]): LineUpEntry =>
  'id' in one ? { ...required(one.id), role: one.role } : outsider(one.email, one.role);

/** A line-up with more in it: each once, as they were there first, and those outside numbered. */
export function joined(
  lineUp: readonly LineUpEntry[],
  fresh: readonly LineUpEntry[],
): LineUpEntry[] {
  const byKey = new Map<string, LineUpEntry>();
  for (const one of [...lineUp, ...fresh]) {
    const key = one.email?.toLowerCase() ?? String(one.id);
    if (!byKey.has(key)) byKey.set(key, one);
  }
  let outside = 0;
  return [...byKey.values()].map((one) => (one.email ? { ...one, id: -++outside } : one));
}

/** How a plan repeats: so many dates, so many weeks apart. */
export interface PlanRepeating {
  count: number;
  everyWeeks: number;
}

export const MOST_DATES = 26;
export const FEWEST_DAYS = 1;
export const MOST_SEATS = 10_000;
export const MOST_DAYS = 30;
const USUAL_DAYS = 10;
const SHORTEST = 5;
const LONGEST = 7 * 1440;
const FURTHEST_STRETCH = 720;
const LONGEST_LEAD = 30 * 1440;
const EARLIEST = Date.UTC(1900, 0, 1);
const LATEST = Date.UTC(2200, 0, 1);

/** Everything about a plan that its address keeps, so that it can be shared, reloaded and gone back to. */
export interface PlanAddress {
  title: string;
  /** Words of the sentence it was made by of which nothing was made. */
  unread: string;
  /** Null where nobody was chosen yet, and a meeting’s own people are taken. */
  lineUp: readonly LineUpEntry[] | null;
  /** The first day looked at; null for today. */
  from: string | null;
  dayCount: number;
  /** Whether days off are looked at too. */
  allDays: boolean;
  /** The meeting’s length; null for the usual one. */
  minutes: number | null;
  /** The instant at which the chosen time starts. */
  at: number | null;
  repeating: PlanRepeating | null;
  /** The meeting that is given a new time, and which of its dates. */
  eventId: string | null;
  occurrence: string | null;
  rule: Wishes['rule'];
  places: Wishes['places'];
  features: readonly string[];
  /** A part of the name of the rooms wanted. */
  roomText: string;
  /** Seats that the rooms have at least; 0 for as many as there are people. */
  roomSeats: number;
  /** Sites at which no room is needed. */
  withoutRoom: readonly number[];
  /** The part of the day that it lies in, minutes after midnight; null for any. */
  between: { from: number; to: number } | null;
  /** How long from now it begins at the earliest; null for the usual. */
  leadMinutes: number | null;
  stretchMinutes: number;
  stretches: Readonly<Record<string, ZoneStretch>>;
  tentativeIsFree: boolean;
  unknown: Wishes['unknown'];
  leastBad: boolean;
}

/** How one value stands in the address; null is for what it need not say. */
interface Parameter<Value> {
  name: string;
  read: (text: string | null) => Value;
  write: (value: Value) => string | null;
}

const text = (name: string): Parameter<string> => ({
  name,
  read: (value) => value ?? '',
  write: (value) => value || null,
});

const textOrNull = (name: string): Parameter<string | null> => ({
  name,
  read: (value) => value || null,
  write: (value) => value,
});

/** One of a few words; the first is the usual one. */
const oneOf = <Word extends string>(
  name: string,
  words: readonly [Word, ...Word[]],
): Parameter<Word> => ({
  name,
  read: (value) => words.find((word) => word === value) ?? words[0],
  write: (value) => (value === words[0] ? null : value),
});

const flag = (name: string, word: string): Parameter<boolean> => ({
  name,
  read: (value) => value === word,
  write: (value) => (value ? word : null),
});

/** A whole number within bounds, or the usual value where the address has none. */
const number = <Usual extends number | null>(
  name: string,
  usual: Usual,
  least: number,
  most: number,
): Parameter<number | Usual> => {
  const bounded = (value: number) => Math.min(Math.max(Math.round(value), least), most);
  return {
    name,
    read: (value) => {
      const given = value?.trim() ? Number(value) : NaN;
      return Number.isFinite(given) ? bounded(given) : usual;
    },
    write: (value) => (value === null || value === usual ? null : String(bounded(value))),
  };
};

const PARAMETERS: { [Name in keyof PlanAddress]: Parameter<PlanAddress[Name]> } = {
  title: text('title'),
  unread: text('unread'),
  lineUp: { name: 'with', read: readLineUp, write: writeLineUp },
  from: {
    name: 'from',
    read: (value) => (value && isDate(value) ? value : null),
    write: (value) => value,
  },
  dayCount: number('days', USUAL_DAYS, FEWEST_DAYS, MOST_DAYS),
  allDays: flag('all', 'yes'),
  minutes: number('minutes', null, SHORTEST, LONGEST),
  at: number('at', null, EARLIEST, LATEST),
  repeating: {
    name: 'repeat',
    read: readRepeating,
    write: (value) => value && `${value.count}x${value.everyWeeks}`,
  },
  eventId: textOrNull('event'),
  occurrence: textOrNull('occurrence'),
  rule: oneOf('rule', ['required', 'everyone']),
  places: oneOf('places', ['listed', 'fitting', 'ignored']),
  features: {
    name: 'features',
    read: (value) => (value ?? '').split(',').filter(Boolean),
    write: (value) => value.join(',') || null,
  },
  roomText: text('room'),
  roomSeats: number('seats', 0, 0, MOST_SEATS),
  withoutRoom: { name: 'noroom', read: readIds, write: (value) => value.join(',') || null },
  between: {
    name: 'between',
    read: readBetween,
    write: (value) => value && `${value.from}-${value.to}`,
  },
  leadMinutes: number('lead', null, 0, LONGEST_LEAD),
  stretchMinutes: number('stretch', USUAL_STRETCH_MINUTES, 0, FURTHEST_STRETCH),
  stretches: { name: 'zones', read: readStretches, write: writeStretches },
  tentativeIsFree: flag('tentative', 'free'),
  unknown: oneOf('unknown', ['busy', 'ignored']),
  leastBad: flag('least', 'bad'),
};
const NAMES = Object.keys(PARAMETERS) as (keyof PlanAddress)[];

/** Reads the query of an address; what cannot be read is left out, and numbers are kept in bounds. */
export function readPlan(search: string): PlanAddress {
  const query = new URLSearchParams(search);
  return Object.fromEntries(
    NAMES.map((name) => [name, PARAMETERS[name].read(query.get(PARAMETERS[name].name))]),
  ) as unknown as PlanAddress;
}

/** The query of a plan’s address, with its question mark; empty where everything is as usual. */
export function writePlan(plan: Partial<PlanAddress>): string {
  const query = new URLSearchParams();
  const put = <Name extends keyof PlanAddress>(
    name: Name,
    value: PlanAddress[Name] | undefined,
  ) => {
    const written = value === undefined ? null : PARAMETERS[name].write(value);
    if (written !== null) query.set(PARAMETERS[name].name, written);
  };
  for (const name of NAMES) put(name, plan[name]);
  const written = query.toString();
  return written && `?${written}`;
}

/** Changes as the address gives them back: within bounds, each person once, addresses numbered. */
export function asKept(changes: Partial<PlanAddress>): Partial<PlanAddress> {
  const kept: Partial<PlanAddress> = {};
  const keep = <Name extends keyof PlanAddress>(name: Name, value: PlanAddress[Name]) => {
    kept[name] = PARAMETERS[name].read(PARAMETERS[name].write(value));
  };
  for (const name of NAMES) if (name in changes) keep(name, changes[name]!);
  return kept;
}

/** Where a plan is; nothing is made before it is sent. */
export const planPath = (plan: Partial<PlanAddress>): string => `/plan${writePlan(plan)}`;

/** Reads `720-1020`, minutes after midnight. */
function readBetween(written: string | null): PlanAddress['between'] {
  const match = /^(\d{1,4})-(\d{1,4})$/.exec(written ?? '');
  const [from, to] = [Number(match?.[1]), Number(match?.[2])];
  return from < to && to <= 1440 ? { from, to } : null;
}

/** Somebody or something of a line-up as an address writes it: `45ox`, or `jon@skau.example:o`. */
function readAsked(
  part: string,
): { id?: string; email?: string; optional: boolean; aside: boolean } | null {
  const flags = /^(\d*)(o?)(x?)$/.exec(part);
  if (flags) {
    const [, id, optional, aside] = flags;
    return id ? { id, optional: optional !== '', aside: aside !== '' } : null;
  }
  const colon = part.indexOf(':');
  const email = colon < 0 ? part : part.slice(0, colon);
  const marks = /^(o?)(x?)$/.exec(colon < 0 ? '' : part.slice(colon + 1));
  return marks && { email, optional: marks[1] !== '', aside: marks[2] !== '' };
}

/**
 * Reads `12,45o,78ox,jon@skau.example:o`: o for optional, x for set aside; what cannot be read, and
 * what stands there twice, is left out. Addresses are numbered -1, -2 and so on.
 */
function readLineUp(written: string | null): LineUpEntry[] | null {
  if (!written) return null;
  const seen = new Set<string>();
  let outside = 0;
  return written.split(',').flatMap((part): LineUpEntry[] => {
    const read = readAsked(part);
    if (!read) return [];
    const { id, email, optional, aside } = read;
    const key = id ?? addressKey(email!);
    if (seen.has(key) || (email && !isMailAddress(email)) || id === '0') return [];
    seen.add(key);
    return [
      {
        id: id ? Number(id) : -++outside,
        ...(email && { email }),
        role: optional ? 'optional' : 'required',
        setAside: aside,
      },
    ];
  });
}

function writeLineUp(lineUp: readonly LineUpEntry[] | null): string | null {
  const parts = (lineUp ?? []).map(({ id, email, role, setAside }) => {
    const flags = `${role === 'optional' ? 'o' : ''}${setAside ? 'x' : ''}`;
    return email ? `${email}${flags && `:${flags}`}` : `${id}${flags}`;
  });
  return parts.join(',') || null;
}

const stretchOf = (minutes: string | undefined) =>
  Math.min(Math.max(Number(minutes) || 0, 0), FURTHEST_STRETCH);

/** Reads `Asia/Kolkata:60:0`, minutes early and late by zone. */
function readStretches(written: string | null): Record<string, ZoneStretch> {
  const stretches: Record<string, ZoneStretch> = {};
  for (const part of (written ?? '').split(',')) {
    const [zone, early, late] = part.split(':');
    if (zone && isZone(zone)) stretches[zone] = { early: stretchOf(early), late: stretchOf(late) };
  }
  return stretches;
}

function writeStretches(stretches: Readonly<Record<string, ZoneStretch>>): string | null {
  return (
    Object.entries(stretches)
      .filter(([, { early, late }]) => early || late)
      .map(([zone, { early, late }]) => `${zone}:${early}:${late}`)
      .join(',') || null
  );
}

/** Reads `8x2`: eight dates, every second week; null where it is no such thing. */
function readRepeating(written: string | null): PlanRepeating | null {
  const match = /^(\d{1,2})x([1-4])$/.exec(written ?? '');
  const count = Number(match?.[1]);
  const everyWeeks = Number(match?.[2]);
  return match && count >= 2 && count * everyWeeks <= MOST_DATES ? { count, everyWeeks } : null;
}

/** Reads ids as `1,2,3`. */
function readIds(written: string | null): number[] {
  return (written ?? '')
    .split(',')
    .map(Number)
    .filter((id) => Number.isInteger(id) && id > 0);
}
