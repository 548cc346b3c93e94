import { Temporal } from 'temporal-polyfill';
import type { LineUpMember } from '../../src/core/planner/lineUp.ts';
import type {
  PastMeeting,
  RoomCandidate,
  Surroundings,
  Wishes,
} from '../../src/core/planner/wishes.ts';
import { plainMinutes, type PlainMinutes } from './plainMinutes.ts';
import { plainlyRefused } from './plainTerms.ts';

const MINUTE_MS = 60_000;

/** A start as the rules of docs/PLANNING.md have it, reckoned minute by minute. */
export interface PlainStart {
  start: number;
  /** How many needed members and sites are in the way. */
  inTheWay: number;
  /** What it costs, but for waiting and short notice. */
  cost: number;
  /** What waiting and short notice add. */
  delay: number;
  sides: Record<number, Side>;
}

type Side = 'early' | 'late' | 'break' | null;

/** Whether a meeting begins while the one unit is still free and ends when only the other one is. */
const changesUnits = (
  { changeovers = [] }: LineUpMember,
  start: number,
  minutes: number,
): boolean => changeovers.some((one) => start < one.end && start + minutes * MINUTE_MS > one.start);

/**
 * A slow planner that was written from docs/PLANNING.md alone, without a look at how the fast one
 * computes: everybody's minutes one by one, and every start for itself.
 */
export class PlainReckoning {
  private readonly people: PlainMinutes[];
  private readonly places: PlainMinutes[];
  private readonly turns: Map<number, { early: number; late: number }>;
  private readonly active: LineUpMember[];
  private readonly wishes: Wishes;
  private readonly surroundings: Surroundings;

  constructor(members: readonly LineUpMember[], wishes: Wishes, surroundings: Surroundings) {
    this.wishes = wishes;
    this.surroundings = surroundings;
    this.active = members.filter((one) => !one.setAside);
    const laid = this.active.map((one) => plainMinutes(one, wishes));
    this.people = laid.filter((one) => one.member.kind === 'person');
    this.places = laid.filter((one) => one.member.kind === 'resource');
    this.turns = turnsBefore(this.people, surroundings.history, wishes);
  }

  /** Every start of the window, a quarter of an hour apart, the wished time from now on. */
  starts(): number[] {
    const { window, lengthMinutes, notBefore, between, stepMinutes } = this.wishes;
    const found: number[] = [];
    for (
      let at = window.start;
      at + lengthMinutes * MINUTE_MS <= window.end;
      at += stepMinutes * MINUTE_MS
    ) {
      if (at < notBefore) continue;
      if (between && !liesBetween(at, lengthMinutes, between, this.wishes.zone)) continue;
      found.push(at);
    }
    return found;
  }

  at(start: number): PlainStart {
    const from = Math.floor((start - this.wishes.window.start) / MINUTE_MS);
    const to = from + this.wishes.lengthMinutes;
    const sides: Record<number, Side> = {};
    let cost = 0;
    let inTheWay = 0;
    for (const one of this.people) {
      const needed = this.wishes.rule === 'everyone' || one.member.role === 'required';
      const free = !some(one.taken, from, to) && every(one.bearable, from, to);
      const side = sideOf(one, from, to);
      sides[one.member.id] = side;
      // Whose conflicts do not count weighs only by whether they can come.
      if (!needed) {
        if (!free) cost += 60;
        else if (some(one.doubtful, from, to)) cost += 45;
        continue;
      }
      if (!free) inTheWay += 1;
      const minutes = outside(one, from, to);
      const again = side === 'early' || side === 'late' ? this.turns.get(one.member.id)![side] : 0;
      cost += minutes * (1 + Math.min(3, again) / 2);
      cost += count(one.midday, from, to) / 4;
      if (!free) continue;
      if (some(one.doubtful, from, to)) cost += 45;
      if (some(one.taken, from - 10, from)) cost += 5;
      if (some(one.taken, to, to + 10)) cost += 5;
      cost += 0.04 * this.broken(one, from, to);
    }
    if (this.wishes.places !== 'ignored')
      for (const one of this.places)
        if (
          some(one.taken, from, to) ||
          changesUnits(one.member, start, this.wishes.lengthMinutes) ||
          plainlyRefused(one.member.terms, { start, end: start + (to - from) * MINUTE_MS })
        )
          inTheWay += 1;
    for (const site of this.sitesInNeed()) {
      const room = this.cheapest(site, start);
      if (room === null) inTheWay += 1;
      else cost += room;
    }
    cost += inTheWay * 240;
    if (onClock(start, this.wishes.zone).minute % 30 !== 0) cost += 2;
    return { start, inTheWay, cost, delay: this.delay(start), sides };
  }

  private delay(start: number): number {
    const { window, notBefore, now, zone } = this.wishes;
    const date = (instant: number) => onClock(instant, zone).toPlainDate();
    const days = date(Math.max(window.start, notBefore)).until(date(start)).days;
    const missing = now === undefined ? 0 : Math.max(0, 240 - (start - now) / MINUTE_MS);
    return (
      4 * days +
      (this.people.some(({ member }) => member.id !== this.wishes.askerId) ? 0.05 * missing : 0)
    );
  }

  /** Minutes left over, before or after, of a quiet run that a meeting breaks up. */
  private broken(one: PlainMinutes, from: number, to: number): number {
    if (one.hourless) return 0;
    const end = (this.wishes.window.end - this.wishes.window.start) / MINUTE_MS;
    const quiet = (m: number) =>
      m >= 0 && m < end && one.works(m) && !one.taken(m) && !one.doubtful(m);
    if (!every(quiet, from, to)) return 0;
    let first = from;
    while (quiet(first - 1)) first--;
    let last = to;
    while (quiet(last)) last++;
    if (last - first < 120) return 0;
    const short = (minutes: number) => (minutes < 120 ? minutes : 0);
    return short(from - first) + short(last - to);
  }

  private sitesInNeed(): number[] {
    const { places, rooms: wished } = this.wishes;
    if (places !== 'fitting') return [];
    const sites = new Set(this.surroundings.rooms.map((room) => room.siteId));
    return [...sites].filter(
      (site) =>
        !wished.without.includes(site) &&
        this.active.some((one) => one.kind === 'person' && one.siteId === site) &&
        !this.active.some((one) => one.isRoom && one.siteId === site),
    );
  }

  /** What the cheapest free fitting room of a site costs; null where none is free. */
  private cheapest(site: number, start: number): number | null {
    const end = start + this.wishes.lengthMinutes * MINUTE_MS;
    const people = this.people.filter((one) => one.member.siteId === site);
    const fits = (room: RoomCandidate) =>
      room.siteId === site &&
      room.seats >= people.length &&
      this.wishes.rooms.features.every((one) => room.features.includes(one)) &&
      room.name.toLowerCase().includes(this.wishes.rooms.text.toLowerCase()) &&
      !room.busy.some((span) => span.start < end && start < span.end) &&
      !plainlyRefused(room.terms, { start, end });
    const costs = this.surroundings.rooms.filter(fits).map((room) => {
      const walks = people
        .map((one) => Math.abs(storey(one.member.floor ?? '') - storey(room.floor)))
        .filter((floors) => !Number.isNaN(floors));
      const floors = walks.length ? walks.reduce((sum, one) => sum + one, 0) / walks.length : 0;
      return (room.seats - people.length) * 0.3 + 2 * floors;
    });
    return costs.length ? Math.min(...costs) : null;
  }
}

const storey = (floor: string): number => (floor === '' ? NaN : Number(floor));

const onClock = (instant: number, zone: string) =>
  Temporal.Instant.fromEpochMilliseconds(instant).toZonedDateTimeISO(zone);

function liesBetween(
  start: number,
  lengthMinutes: number,
  { from, to }: { from: number; to: number },
  zone: string,
): boolean {
  const clock = onClock(start, zone);
  const minute = clock.hour * 60 + clock.minute;
  return minute >= from && minute + lengthMinutes <= to;
}

/** Before a day or after it, or in one of its breaks; null where it is all within the hours. */
function sideOf(one: PlainMinutes, from: number, to: number): Side {
  if (every(one.works, from, to)) return null;
  if (every(one.inDay, from, to)) return 'break';
  if (one.inDay(from)) return 'late';
  if (one.inDay(to - 1)) return 'early';
  let before = 0;
  while (from - before > one.from && !one.inDay(from - 1 - before)) before++;
  let after = 0;
  while (to + after < one.to && !one.inDay(to + after)) after++;
  return after < before ? 'early' : 'late';
}

/** Minutes outside somebody's hours: more with each hour away from their day, three times as much at night. */
function outside(one: PlainMinutes, from: number, to: number): number {
  let sum = 0;
  for (let minute = from; minute < to; minute++) {
    if (one.works(minute)) continue;
    let away = 0;
    if (!one.inDay(minute))
      while (away < 400 && !one.inDay(minute - 1 - away) && !one.inDay(minute + 1 + away)) away++;
    const weight = one.inDay(minute) ? 1 : Math.min(6, 1 + Math.floor(away / 60));
    sum += weight * (!one.inDay(minute) && one.night(minute) ? 3 : 1);
  }
  return sum;
}

/** How often in a row somebody had an hour of the same side in the last meetings they took part in. */
function turnsBefore(
  people: readonly PlainMinutes[],
  history: readonly PastMeeting[],
  wishes: Wishes,
): Map<number, { early: number; late: number }> {
  const turns = new Map<number, { early: number; late: number }>();
  for (const one of people) {
    const sides = history
      .filter((meeting) => meeting.people.includes(one.member.id))
      .map((meeting) => {
        const own = plainMinutes(one.member, { ...wishes, window: meeting });
        return sideOf(own, 0, (meeting.end - meeting.start) / MINUTE_MS);
      });
    const row = (side: Side) => {
      const other = sides.findIndex((had) => had !== side);
      return other < 0 ? sides.length : other;
    };
    turns.set(one.member.id, { early: row('early'), late: row('late') });
  }
  return turns;
}

function some(holds: (minute: number) => boolean, from: number, to: number): boolean {
  for (let minute = from; minute < to; minute++) if (holds(minute)) return true;
  return false;
}

const every = (holds: (minute: number) => boolean, from: number, to: number): boolean =>
  !some((minute) => !holds(minute), from, to);

function count(holds: (minute: number) => boolean, from: number, to: number): number {
  let counted = 0;
  for (let minute = from; minute < to; minute++) if (holds(minute)) counted++;
  return counted;
}
