import type { RememberedLineUp } from '../../contract/lineUps.ts';
import type { ZoneStretch } from '../../core/planner/wishes.ts';
import { isZone } from '../../core/time/wall.ts';

/** One of a line-up as the address of a plan keeps it: by id, or by an outside mail address. */
export interface Asked {
  id: number;
  /** Of somebody outside, who has no id but a negative number by which the planner knows them. */
  email?: string;
  role: 'required' | 'optional';
  setAside: boolean;
}

const EMAIL = /^[^\s@,]+@[^\s@,]+\.[^\s@,:]+$/;

/**
 * Reads `12,45o,78ox,jon@skau.example:o`: o for optional, x for set aside; what cannot be read, and
 * what stands there twice, is left out. Addresses are numbered -1, -2 and so on.
 */
export function readLineUp(text: string | null): Asked[] {
  const seen = new Set<string>();
  let outside = 0;
  return (text ?? '').split(',').flatMap((part): Asked[] => {
    const match = /^(?:(\d+)|([^:]+@[^:]+):?)(o?)(x?)$/.exec(part);
    if (!match) return [];
    const [, number, email, optional, aside] = match;
    const key = number ?? email!.toLowerCase();
    if (seen.has(key) || (email && !EMAIL.test(email)) || number === '0') return [];
    seen.add(key);
    return [
      {
        id: number ? Number(number) : -++outside,
        ...(email && { email }),
        role: optional ? 'optional' : 'required',
        setAside: aside === 'x',
      },
    ];
  });
}

/** One of a remembered line-up; the number of an address is given when it is read. */
export const recalled = (one: RememberedLineUp['members'][number]): Asked =>
  'id' in one
    ? { id: one.id, role: one.role, setAside: false }
    : { id: -1, email: one.email, role: one.role, setAside: false };

export const writeLineUp = (lineUp: readonly Asked[]): string =>
  lineUp
    .map(({ id, email, role, setAside }) => {
      const flags = `${role === 'optional' ? 'o' : ''}${setAside ? 'x' : ''}`;
      return email ? `${email}${flags && `:${flags}`}` : `${id}${flags}`;
    })
    .join(',');

const bounded = (text: string | undefined) => Math.min(Math.max(Number(text) || 0, 0), 720);

/** Reads `Asia/Kolkata:60:0`, minutes early and late by zone. */
export function readStretches(text: string | null): Record<string, ZoneStretch> {
  const stretches: Record<string, ZoneStretch> = {};
  for (const part of (text ?? '').split(',')) {
    const [zone, early, late] = part.split(':');
    if (zone && isZone(zone)) stretches[zone] = { early: bounded(early), late: bounded(late) };
  }
  return stretches;
}

/** Null where there is nothing to keep. */
export const writeStretches = (stretches: Readonly<Record<string, ZoneStretch>>): string | null =>
  Object.entries(stretches)
    .filter(([, { early, late }]) => early || late)
    .map(([zone, { early, late }]) => `${zone}:${early}:${late}`)
    .join(',') || null;

/** How a plan repeats: so many dates, so many weeks apart. */
export interface Repeating {
  count: number;
  everyWeeks: number;
}

export const MOST_DATES = 26;

/** Reads `8x2`: eight dates, every second week; null where it is no such thing. */
export function readRepeating(text: string | null): Repeating | null {
  const match = /^(\d{1,2})x([1-4])$/.exec(text ?? '');
  const count = Number(match?.[1]);
  const everyWeeks = Number(match?.[2]);
  return match && count >= 2 && count * everyWeeks <= MOST_DATES ? { count, everyWeeks } : null;
}

/** Ids as `1,2,3`. */
export const readIds = (text: string | null): number[] =>
  (text ?? '')
    .split(',')
    .map(Number)
    .filter((id) => Number.isInteger(id) && id > 0);
