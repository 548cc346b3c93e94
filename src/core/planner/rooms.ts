import { BlockedCounter, type SlotGrid } from '../availability/slots.ts';
import { brokenByLength, keepsTerms } from '../booking/terms.ts';
import { merge, MINUTE, overlaps, type Interval } from '../time/interval.ts';
import { spansOf } from '../time/spans.ts';
import { activeMembers, type LineUpMember } from './lineUp.ts';
import { ROOM_WEIGHTS } from './weights.ts';
import type { RoomCandidate, Wishes } from './wishes.ts';
import { refusedStarts } from './refusedStarts.ts';

/** A site of the line-up that needs a room, and the rooms there that would do. */
export interface SiteNeed {
  siteId: number;
  site: string;
  /** People of the line-up who work there. */
  people: number;
  /** Best first: by cost, then by name. */
  fitting: { room: RoomCandidate; cost: number }[];
  /** Where none fits: the condition that the last of them failed. */
  lacking: 'length' | 'seats' | 'features' | 'name' | null;
}

/** Half-open, in epoch milliseconds. */
type Pair = readonly [start: number, end: number];

/** A room of which is told apart when it is taken and when its rules bar it. */
export type RoomTimes = Omit<RoomCandidate, 'busy' | 'barred'> & { busy: Pair[]; barred: Pair[] };

/** The same as the planner weighs it: no meeting can be in it at either. */
export function roomCandidate({ busy, barred, ...room }: RoomTimes): RoomCandidate {
  const [taken, closed] = [busy, barred].map((pairs) =>
    pairs.map(([start, end]) => ({ start, end })),
  ) as [Interval[], Interval[]];
  return { ...room, busy: merge([...taken, ...closed]), barred: closed };
}

/** What is wished of rooms; without a length, no room is left out for the lengths it can be booked for. */
type RoomsWished = Pick<Wishes, 'places' | 'rooms'> & Partial<Pick<Wishes, 'lengthMinutes'>>;

/**
 * The sites that need a room under the wishes: those with people of the line-up, without a room
 * listed there, and not excepted. Sites of which no room is known at all are left out.
 */
export function siteNeeds(
  members: readonly LineUpMember[],
  wishes: RoomsWished,
  rooms: readonly RoomCandidate[],
): SiteNeed[] {
  if (wishes.places !== 'fitting') return [];
  const active = activeMembers(members);
  const listed = new Set(active.filter((one) => one.isRoom).map((one) => one.siteId));
  const sites = [...new Set(rooms.map((room) => room.siteId))].sort((a, b) => a - b);
  return sites.flatMap((siteId) => {
    const people = active.filter((one) => one.kind === 'person' && one.siteId === siteId);
    if (people.length === 0 || listed.has(siteId) || wishes.rooms.without.includes(siteId))
      return [];
    return [
      needOf(
        siteId,
        people,
        rooms.filter((room) => room.siteId === siteId),
        wishes,
      ),
    ];
  });
}

function needOf(
  siteId: number,
  people: readonly LineUpMember[],
  rooms: readonly RoomCandidate[],
  { rooms: { features, text, seats = 0 }, lengthMinutes }: RoomsWished,
): SiteNeed {
  const named = rooms.filter((room) => room.name.toLowerCase().includes(text.trim().toLowerCase()));
  const featured = named.filter((room) => features.every((one) => room.features.includes(one)));
  const seated = featured.filter((room) => room.seats >= Math.max(people.length, seats));
  const allowed = seated.filter(
    ({ terms }) =>
      !terms || lengthMinutes === undefined || brokenByLength(terms, lengthMinutes).length === 0,
  );
  const lacking = allowed.length
    ? null
    : seated.length
      ? ('length' as const)
      : featured.length
        ? ('seats' as const)
        : named.length
          ? ('features' as const)
          : ('name' as const);
  const fitting = allowed
    .map((room) => ({ room, cost: roomCost(room, people) }))
    .sort(
      (a, b) => a.cost - b.cost || (a.room.name < b.room.name ? -1 : 1) || a.room.id - b.room.id,
    );
  return { siteId, site: rooms[0]?.site ?? '', people: people.length, fitting, lacking };
}

/** Penalty points of a room for the people of its site: seats left empty, and floors to walk. */
export function roomCost(room: RoomCandidate, people: readonly LineUpMember[]): number {
  const floor = Number(room.floor);
  const walks = people.flatMap((one) =>
    one.floor && room.floor && Number.isFinite(Number(one.floor)) && Number.isFinite(floor)
      ? [Math.abs(Number(one.floor) - floor)]
      : [],
  );
  const floors = walks.length ? walks.reduce((sum, one) => sum + one, 0) / walks.length : 0;
  const empty = Math.max(0, room.seats - people.length);
  return empty * ROOM_WEIGHTS.emptySeat + floors * ROOM_WEIGHTS.floor;
}

/** For every slot, the best fitting room that is free at a site; -1 where none is. */
export interface RoomChoice {
  need: SiteNeed;
  /** Index into `need.fitting`. */
  best: Int16Array;
}

/**
 * Picks for every start the cheapest fitting room of a site that is free for the whole length, and that
 * can be booked for it.
 */
export function chooseRooms(need: SiteNeed, grid: SlotGrid, lengthMinutes: number): RoomChoice {
  const best = new Int16Array(grid.count).fill(-1);
  let open = grid.count;
  for (const [k, { room }] of need.fitting.entries()) {
    if (open === 0) break;
    const blocked = new BlockedCounter(grid, lengthMinutes);
    blocked.add(spansOf(room.busy), refusedStarts(room.terms, grid, lengthMinutes));
    const counts = blocked.counts();
    for (let slot = 0; slot < grid.count; slot++) {
      if (best[slot] === -1 && counts[slot] === 0) {
        best[slot] = k;
        open--;
      }
    }
  }
  return { need, best };
}

/** Whether a room is free for all of a meeting, and can be booked for it. */
export const isFreeFor = ({ busy, terms }: RoomCandidate, meeting: Interval): boolean =>
  !busy.some((span) => overlaps(span, meeting)) && keepsTerms(terms, meeting);

/** The fitting rooms that are free for a meeting, best first. */
export const freeRooms = (need: SiteNeed, meeting: Interval): SiteNeed['fitting'] =>
  need.fitting.filter(({ room }) => isFreeFor(room, meeting));

/** A room picked for a site together with a time. */
export interface PickedRoom {
  siteId: number;
  site: string;
  /** People of the line-up who work there. */
  people: number;
  /** Null where no fitting room is free. */
  room: { id: number; name: string; seats: number; floor: string } | null;
  /** How many fitting rooms are free, and how many fit. */
  free: number;
  fitting: number;
}

/** The best fitting room that is free at a site for a meeting. */
export function pickRoom(need: SiteNeed, meeting: Interval): PickedRoom {
  const free = freeRooms(need, meeting);
  const room = free[0]?.room;
  return {
    siteId: need.siteId,
    site: need.site,
    people: need.people,
    room: room ? { id: room.id, name: room.name, seats: room.seats, floor: room.floor } : null,
    free: free.length,
    fitting: need.fitting.length,
  };
}

/** The rooms that a meeting would get at each site that needs one. */
export const pickRooms = (
  members: readonly LineUpMember[],
  { places, rooms: wished }: Pick<Wishes, 'places' | 'rooms'>,
  rooms: readonly RoomCandidate[],
  meeting: Interval,
): PickedRoom[] => {
  const lengthMinutes = (meeting.end - meeting.start) / MINUTE;
  const needs = siteNeeds(members, { places, rooms: wished, lengthMinutes }, rooms);
  return needs.map((need) => pickRoom(need, meeting));
};

/** One room for all the dates of a series at a site, and what to take where it is not free. */
export interface SeriesRoom {
  siteId: number;
  room: { id: number; name: string };
  /** Dates on which another one is taken instead, or none can be had. */
  instead: { start: number; room: { id: number; name: string } | null }[];
}

/** For each site that needs one, the fitting room that is free on the most dates; cheaper on a tie. */
export function seriesRooms(
  members: readonly LineUpMember[],
  wishes: RoomsWished,
  rooms: readonly RoomCandidate[],
  dates: readonly Interval[],
): SeriesRoom[] {
  return siteNeeds(members, wishes, rooms).flatMap((need) => {
    const free = dates.map((date) => freeRooms(need, date).map(({ room }) => room));
    const often = (id: number) => free.filter((list) => list.some((one) => one.id === id)).length;
    const [best] = need.fitting
      .map(({ room }) => ({ room, count: often(room.id) }))
      .sort((a, b) => b.count - a.count);
    if (!best || best.count === 0) return [];
    const named = ({ id, name }: RoomCandidate) => ({ id, name });
    const instead = dates.flatMap((date, k) => {
      const list = free[k]!;
      if (list.some((one) => one.id === best.room.id)) return [];
      return [{ start: date.start, room: list[0] ? named(list[0]) : null }];
    });
    return [{ siteId: need.siteId, room: named(best.room), instead }];
  });
}
