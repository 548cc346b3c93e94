import { BlockedCounter, slotGrid, type SlotGrid } from '../availability/slots.ts';
import { activeMembers, prepareLineUp, type LineUpMember, type Wishes } from './lineUp.ts';

/** For every slot, how many of the line-up are free: within their hours and with nothing on. */
export interface Ridge {
  grid: SlotGrid;
  people: Uint16Array;
  required: Uint16Array;
  resources: Uint16Array;
  totals: { people: number; required: number; resources: number };
}

/**
 * Counts the free members of the line-up for every slot of the window.
 * `required` counts required people alone; members set aside are not counted at all.
 */
export function ridge(
  members: readonly LineUpMember[],
  wishes: Pick<Wishes, 'window' | 'tentativeIsFree'>,
  slotMinutes = 15,
): Ridge {
  const grid = slotGrid(wishes.window, slotMinutes);
  const active = activeMembers(prepareLineUp(members, { ...wishes, stretchMinutes: 0 }));
  const count = (group: typeof active) => {
    const blocked = new BlockedCounter(grid, slotMinutes);
    for (const member of group) blocked.add(member.taken, member.closed);
    return blocked.counts().map((n) => group.length - n);
  };
  const people = active.filter((member) => member.kind === 'person');
  const required = people.filter((member) => member.role === 'required');
  const resources = active.filter((member) => member.kind === 'resource');
  return {
    grid,
    people: count(people),
    required: count(required),
    resources: count(resources),
    totals: {
      people: people.length,
      required: required.length,
      resources: resources.length,
    },
  };
}
