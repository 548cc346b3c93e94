import { useEffect, useRef, useState, type PointerEvent } from 'react';
import type { BoardBooking } from '../../contract/places.ts';
import { MINUTE, type Interval } from '../../core/time/interval.ts';
import { draggedSpan, type Grip } from '../grid/index.ts';
import { instantAtShare } from './laneScale.ts';
import type { LaneRow } from './rows.ts';
import type { Pick } from './useBoardAddress.ts';

/** Less than this is a click, and no drag. Pixels. */
const STILL_PX = 4;
/** So near to an edge what is held scrolls the places, by so much a frame. Pixels. */
const EDGE_PX = 72;
const SCROLL_PX = 8;

/** What is being held, and where it would be put down. */
export interface BoardDrag {
  what: 'new' | 'pick' | BoardBooking;
  grip: Grip;
  span: Interval;
  /** The lane under the pointer. */
  row: LaneRow;
  /** Where it was taken hold of. */
  from: LaneRow;
}

/** Where a pointer is. */
interface Pointing {
  clientX: number;
  clientY: number;
  pointerType: string;
}

interface Hold extends BoardDrag {
  grabbed: number;
  /** What of others was under the pointer. */
  over: BoardBooking | null;
  before: Interval;
  x: number;
  y: number;
  isMoved: boolean;
}

/**
 * Pointers on a board: a drag over free paper picks a time, what is picked and bookings of one's own
 * are moved, also onto another lane, and stretched by their edges. With Shift a place joins those that
 * are picked already. A finger picks by a tap.
 */
export function useBoardDrag({
  laneOf,
  bookingOf,
  pick,
  zone,
  usualMinutes,
  onPick,
  onMove,
  onOpen,
}: {
  laneOf: (key: string) => LaneRow | undefined;
  /** A booking by the name that its bar carries. */
  bookingOf: (name: string) => BoardBooking | undefined;
  pick: Pick | null;
  zone: string;
  usualMinutes: number;
  onPick: (pick: Pick) => void;
  onMove: (booking: BoardBooking, span: Interval, place: number) => void;
  onOpen: (booking: BoardBooking) => void;
}) {
  const [drag, setDrag] = useState<BoardDrag | null>(null);
  const held = useRef<Hold | null>(null);
  const tapped = useRef<Hold | null>(null);
  const hold = (next: Hold | null) => {
    held.current = next;
    setDrag(next?.isMoved ? next : null);
  };
  const pointer = useRef<globalThis.PointerEvent | null>(null);
  const frame = useRef(0);
  const stopScrolling = () => {
    cancelAnimationFrame(frame.current);
    frame.current = 0;
  };
  const end = () => {
    stopScrolling();
    hold(null);
  };
  useEffect(() => () => cancelAnimationFrame(frame.current), []);
  const isHeld = drag !== null;
  // Wherever the keys are, Escape lets go of what is held, and leaves it where it was.
  useEffect(() => {
    if (!isHeld) return;
    const letGo = (event: KeyboardEvent) => {
      if (event.key !== 'Escape') return;
      held.current = null;
      setDrag(null);
    };
    window.addEventListener('keydown', letGo);
    return () => window.removeEventListener('keydown', letGo);
  }, [isHeld]);

  const begin = (event: PointerEvent<HTMLElement>) => {
    if (event.button !== 0 || !(event.target instanceof Element)) return;
    const lane = laneAt(event.target);
    const row = lane && laneOf(lane.dataset.lane!);
    if (!row) return;
    const at = instantIn(lane, row, event.clientX);
    const bar = event.target.closest<HTMLElement>('[data-booking]');
    const booking = bar ? bookingOf(bar.dataset.booking!) : undefined;
    const grip = event.target.closest<HTMLElement>('[data-grip]')?.dataset.grip as Grip | undefined;
    const isPick = pick !== null && event.target.closest('[data-pick]') !== null;
    // Over what somebody else has, a time is picked as over free paper: what can be done about it stands beside.
    const own = booking?.eventId ? booking : undefined;
    const what = own ?? (isPick ? ('pick' as const) : ('new' as const));
    const before = own ?? (isPick ? pick.span : { start: at, end: at });
    event.currentTarget.setPointerCapture(event.pointerId);
    hold({
      what,
      grip: grip ?? (what === 'new' ? 'create' : 'move'),
      span: before,
      row,
      from: row,
      grabbed: at,
      before: { start: before.start, end: before.end },
      over: booking ?? null,
      x: event.clientX,
      y: event.clientY,
      isMoved: false,
    });
  };

  const move = (event: PointerEvent<HTMLElement>) => {
    follow(event);
    pointer.current = event.nativeEvent;
    if (frame.current === 0 && held.current?.isMoved) scrollAtEdge();
  };

  /** What is held near the upper or lower edge brings the places there into sight, as long as it is. */
  const scrollAtEdge = () => {
    frame.current = 0;
    const view = document.getElementById('view');
    if (!view || !pointer.current || !held.current?.isMoved) return;
    const { top, bottom } = view.getBoundingClientRect();
    const { clientY } = pointer.current;
    const by = clientY > bottom - EDGE_PX ? 1 : clientY < top + EDGE_PX ? -1 : 0;
    const before = view.scrollTop;
    view.scrollTop += by * SCROLL_PX;
    if (view.scrollTop === before) return;
    follow(pointer.current);
    frame.current = requestAnimationFrame(scrollAtEdge);
  };

  const follow = (event: Pointing) => {
    const now = held.current;
    if (!now) return;
    const far = Math.hypot(event.clientX - now.x, event.clientY - now.y) >= STILL_PX;
    if (!now.isMoved && !far) return;
    // A finger moves the view; what it means is told by a tap.
    if (event.pointerType === 'touch' && now.what !== 'pick') return hold(null);
    if (typeof now.what === 'object' && !now.what.mine) return;
    const under = document.elementFromPoint(event.clientX, event.clientY);
    const other = now.grip === 'move' && under ? laneAt(under) : null;
    const row = (other && laneOf(other.dataset.lane!)) ?? now.row;
    const lane = document.querySelector<HTMLElement>(`[data-lane="${row.key}"]`);
    if (!lane) return;
    const at = instantIn(lane, row, event.clientX);
    const span = draggedSpan(now.grip, { ...now.before, allDay: false }, now.grabbed, at, zone);
    hold({ ...now, span: { start: span.start, end: span.end }, row, isMoved: true });
  };

  const drop = (event: PointerEvent<HTMLElement>) => {
    stopScrolling();
    const now = held.current;
    hold(null);
    if (!now) return;
    const { what, row, from, span } = now;
    if (!now.isMoved) {
      // A finger’s click comes after this, and would meet whatever opens now.
      if (event.pointerType === 'touch') tapped.current = now;
      else pressed(now, event.shiftKey || event.ctrlKey || event.metaKey);
      return;
    }
    if (typeof what === 'object') return onMove(what, span, row.place.id);
    if (what === 'new') return onPick({ span, places: [row.place.id] });
    onPick({
      span,
      places: pick!.places.map((id) => (id === from.place.id ? row.place.id : id)),
    });
  };

  /** What a press that moved nothing means. */
  const pressed = (now: Hold, asWell: boolean) => {
    if (typeof now.what === 'object') onOpen(now.what);
    else if (now.what === 'new') pickAt(now, asWell);
  };

  const click = () => {
    const now = tapped.current;
    tapped.current = null;
    if (now) pressed(now, false);
  };

  /** A click takes a place for the usual length, or as well, or leaves it out again. */
  const pickAt = ({ row, grabbed, over }: Hold, asWell: boolean) => {
    const id = row.place.id;
    if (over) return onPick({ span: { start: over.start, end: over.end }, places: [id] });
    if (asWell && pick) {
      const others = pick.places.filter((one) => one !== id);
      const places = others.length < pick.places.length ? others : [...pick.places, id];
      return onPick({ span: pick.span, places: places.length > 0 ? places : [id] });
    }
    const { start } = draggedSpan(
      'create',
      { start: grabbed, end: grabbed, allDay: false },
      grabbed,
      grabbed,
      zone,
    );
    onPick({ span: { start, end: start + usualMinutes * MINUTE }, places: [id] });
  };

  return {
    drag,
    handlers: {
      onPointerDown: begin,
      onPointerMove: move,
      onPointerUp: drop,
      onClick: click,
      onPointerCancel: end,
    },
  };
}

const laneAt = (element: Element): HTMLElement | null =>
  element.closest<HTMLElement>('[data-lane]');

function instantIn(lane: HTMLElement, row: LaneRow, x: number): number {
  const box = lane.getBoundingClientRect();
  return instantAtShare(row, Math.min(1, Math.max(0, (x - box.left) / box.width)));
}
