import { BlockedCounter, slotGrid, type SlotGrid } from '../availability/slots.ts';
import { activeMembers, prepareLineUp, type LineUpMember } from './lineUp.ts';
import { chooseRooms, siteNeeds } from './rooms.ts';
import { NO_SURROUNDINGS, type Surroundings, type Wishes } from './wishes.ts';

/** For every slot, how many of the line-up are free: within their hours and with nothing on. */
export interface Ridge {
  grid: SlotGrid;
  people: Uint16Array;
  required: Uint16Array;
  /** Places listed that are free, and sites that need a room and have a fitting one free. */
  places: Uint16Array;
  totals: { people: number; required: number; places: number };
}

/**
 * Counts the free members of the line-up for every slot of the window.
 * `required` counts required people alone; members set aside are not counted at all, and time of
 * which nothing is known never is free, whatever the wishes ignore.
 */
export function ridge(
  members: readonly LineUpMember[],
  wishes: Pick<Wishes, 'window' | 'tentativeIsFree'> & Partial<Pick<Wishes, 'places' | 'rooms'>>,
  { rooms }: Pick<Surroundings, 'rooms'> = NO_SURROUNDINGS,
  slotMinutes = 15,
): Ridge {
  const { window, tentativeIsFree } = wishes;
  const grid = slotGrid(window, slotMinutes);
  const active = prepareLineUp(activeMembers(members), {
    window,
    tentativeIsFree,
    stretchMinutes: 0,
  });
  const count = (group: typeof active) => {
    const blocked = new BlockedCounter(grid, slotMinutes);
    for (const member of group) blocked.add(member.blocks, member.closed);
    return blocked.counts().map((n) => group.length - n);
  };
  const people = active.filter((member) => member.kind === 'person');
  const required = people.filter((member) => member.role === 'required');
  const listed =
    wishes.places === 'ignored' ? [] : active.filter((member) => member.kind === 'resource');
  // A quarter of an hour is no booking: what a room asks of those is not asked of it.
  const free = rooms.map((room) => ({ ...room, terms: null }));
  const needs = wishes.rooms
    ? siteNeeds(members, { places: wishes.places ?? 'listed', rooms: wishes.rooms }, free)
    : [];
  const places = count(listed);
  for (const need of needs) {
    const { best } = chooseRooms(need, grid, slotMinutes);
    for (let slot = 0; slot < grid.count; slot++) if (best[slot] !== -1) places[slot]!++;
  }
  return {
    grid,
    people: count(people),
    required: count(required),
    places,
    totals: {
      people: people.length,
      required: required.length,
      places: listed.length + needs.length,
    },
  };
}
