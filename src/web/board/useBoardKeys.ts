import { useState, type KeyboardEvent } from 'react';
import type { BoardPlace } from '../../contract/places.ts';
import { HOUR, MINUTE, overlaps } from '../../core/time/interval.ts';
import { SNAP_MINUTES } from '../grid/index.ts';
import type { LaneRow } from './rows.ts';
import type { BoardAddress, Pick } from './useBoardAddress.ts';

/**
 * The board by keys: arrows up and down go from place to place; left and right pick a time and move it by
 * a quarter of an hour, with Shift they make it longer or shorter; Escape lets it go.
 */
export function useBoardKeys({
  lanes,
  pick,
  address,
  usualMinutes,
  now,
  favour,
}: {
  lanes: readonly LaneRow[];
  pick: Pick | null;
  address: BoardAddress;
  usualMinutes: number;
  now: number;
  favour: (place: BoardPlace) => void;
}) {
  // While arrows move what is picked, they go on doing so; Enter goes on into the panel.
  const [isGoing, setGoing] = useState(false);
  const onKeyDown = (event: KeyboardEvent<HTMLElement>, row: LaneRow) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const vertical = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    const sideways = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (vertical !== undefined) {
      event.preventDefault();
      const next = lanes[lanes.findIndex((one) => one.key === row.key) + vertical];
      if (next) document.querySelector<HTMLElement>(`[data-lane="${next.key}"]`)?.focus();
      return;
    }
    if (event.key === 'f') {
      event.preventDefault();
      favour(row.place);
      return;
    }
    if (event.key === 'Escape' && pick) {
      event.preventDefault();
      address.setPick(null);
      return;
    }
    if (sideways === undefined && event.key !== 'Enter' && event.key !== ' ') return;
    event.preventDefault();
    const mine = pick && overlaps(pick.span, row.window) ? pick.span : null;
    const isHere = mine !== null && pick!.places.includes(row.place.id);
    if (sideways === undefined && isHere) {
      document.querySelector<HTMLElement>('[role="dialog"] input')?.focus();
      return;
    }
    setGoing(sideways !== undefined);
    const by = (sideways ?? 0) * SNAP_MINUTES * MINUTE;
    const begin = Math.ceil(Math.max(now, row.window.start) / HOUR) * HOUR;
    const start = begin < row.window.end ? begin : row.window.start;
    // Going on to another place keeps the time.
    const span =
      sideways === undefined && mine
        ? mine
        : !mine
          ? { start, end: start + usualMinutes * MINUTE }
          : event.shiftKey
            ? {
                start: mine.start,
                end: Math.max(mine.end + by, mine.start + SNAP_MINUTES * MINUTE),
              }
            : { start: mine.start + by, end: mine.end + by };
    address.setPick({ span, places: [row.place.id] });
  };
  return { isGoing, onKeyDown };
}
