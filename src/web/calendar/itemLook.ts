import type { CalendarItem } from '../../contract/events.ts';

/** How an item of a calendar is drawn: pattern says how the time is taken, the edge whose it is. */
export function itemClass(item: Pick<CalendarItem, 'occupancy' | 'standing'>): string {
  const edge =
    item.standing === 'needs-action'
      ? 'border-l-[3px] border-dashed border-alpenglow'
      : item.standing === 'organizer'
        ? 'border-l-[3px] border-gentian'
        : 'border-l-[3px] border-rock';
  const fill = {
    busy: 'rock',
    tentative: 'rock-tentative',
    away: 'rock-away',
    free: 'bg-sheet border-y border-r border-y-edge border-r-edge',
  }[item.occupancy];
  return `${fill} ${edge}`;
}
