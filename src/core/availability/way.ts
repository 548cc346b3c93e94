/** Where a place is: its site, and the floor there as it is written on the door. */
export interface Spot {
  name: string;
  site: string;
  floor: string;
}

/**
 * The way from one place to another in words: `in the same room`, `one floor up`, `at another site,
 * Bluff Station`.
 */
export function wayBetween(from: Spot, to: Spot): string {
  if (from.site !== to.site) return `at another site, ${to.site}`;
  if (from.name === to.name) return 'in the same room';
  const up = Number(to.floor) - Number(from.floor);
  if (from.floor === to.floor || !Number.isInteger(up)) {
    return from.floor === to.floor && to.floor !== '' ? 'on the same floor' : 'in the same house';
  }
  const floors = Math.abs(up) === 1 ? 'one floor' : `${Math.abs(up)} floors`;
  return `${floors} ${up > 0 ? 'up' : 'down'}`;
}

interface Neighbour {
  start: number;
  end: number;
  allDay: boolean;
  occupancy: 'busy' | 'tentative' | 'away' | 'free';
}

/**
 * What ends last before a time and what begins first after it, of what takes time; half-open, epoch
 * milliseconds. Null where there is nothing on that side.
 */
export function neighbours<Item extends Neighbour>(
  items: readonly Item[],
  time: { start: number; end: number },
): { before: Item | null; after: Item | null } {
  const taken = items.filter((item) => !item.allDay && item.occupancy !== 'free');
  const before = taken
    .filter((item) => item.end <= time.start)
    .reduce<Item | null>((last, item) => (last && last.end >= item.end ? last : item), null);
  const after = taken
    .filter((item) => item.start >= time.end)
    .reduce<Item | null>(
      (first, item) => (first && first.start <= item.start ? first : item),
      null,
    );
  return { before, after };
}
