import { useEffect, useRef, type PointerEvent, type RefObject } from 'react';
import { HOUR, MINUTE } from '../../core/time/interval.ts';
import { dateAt } from '../../core/time/wall.ts';
import { instantAt, topOf, type Scale } from './dayScale.ts';
import { draggedSpan, wholeDays, type Grip, type Held } from './drag.ts';
import type { GridItem } from './gridItems.ts';

const LONG_PRESS_MS = 350;
const MOVE_PX = 5;
const SCROLL_EDGE_PX = 36;

export interface DragStatement {
  text: string;
  /** What stands in the way; empty when nothing does. */
  conflict: string;
}

interface Parts {
  /** The element that holds the row of whole days and the hours. */
  root: RefObject<HTMLDivElement | null>;
  /** The element that scrolls the hours. */
  scroller: RefObject<HTMLDivElement | null>;
  scale: Scale;
  pxPerMinute: number;
  zone: string;
  /** Says the new time in words; called for every change, so it must be quick. */
  state: (item: GridItem | null, held: Held) => DragStatement;
  onGrip: (item: GridItem | null) => void;
  onDrop: (item: GridItem | null, held: Held, over?: GridItem | null) => void;
}

interface Hold {
  grip: Grip;
  item: GridItem | null;
  before: Held;
  grabbed: number;
  grabbedDate: string;
  held: Held;
  /** How far the hours were scrolled when it was last painted. */
  painted: number | null;
  moved: boolean;
  pointerId: number;
  origin: { x: number; y: number };
  /** What a new span was begun over, which a click without a drag is meant for. */
  over: GridItem | null;
}

interface Geometry {
  columns: { left: number; right: number; day: number }[];
  /** Bottom of the row of whole days, which stays while the hours scroll below it. */
  headBottom: number;
  bounds: DOMRect;
}

/**
 * Takes hold of free time and of items by pointer and by touch. While something is held nothing is
 * rendered anew: the ghost and the statement are moved directly, which keeps it at the frame rate.
 * The grid marks its columns `data-day`, the ghost's pieces `data-ghost` and `data-ghost-days`, and
 * the statement `data-statement`.
 */
export function useGridDrag(parts: Parts) {
  const latest = useRef(parts);
  useEffect(() => {
    latest.current = parts;
  });
  const hold = useRef<Hold | null>(null);
  const pressTimer = useRef<number | undefined>(undefined);
  /** A finger on free time that has neither moved nor stayed: let go, it is a tap. */
  const tap = useRef<globalThis.PointerEvent | null>(null);
  const frame = useRef(0);
  const pointer = useRef({ x: 0, y: 0 });
  const geometry = useRef<Geometry | null>(null);

  const measure = (): Geometry => {
    const { root } = latest.current;
    const columns = [...root.current!.querySelectorAll<HTMLElement>('[data-day]')].map((column) => {
      const { left, right } = column.getBoundingClientRect();
      return { left, right, day: Number(column.dataset.day) };
    });
    const head = root.current!.querySelector('[data-head]')!;
    const bounds = root.current!.getBoundingClientRect();
    return { columns, headBottom: head.getBoundingClientRect().bottom, bounds };
  };

  const dayAt = (x: number): number => {
    const { columns } = geometry.current!;
    const inside = columns.find((column) => x >= column.left && x < column.right);
    if (inside) return inside.day;
    return x < columns[0]!.left ? columns[0]!.day : columns.at(-1)!.day;
  };

  const instantUnder = ({ x, y }: { x: number; y: number }): { instant: number; day: number } => {
    const { scroller, scale, pxPerMinute } = latest.current;
    const day = dayAt(x);
    const top = y - geometry.current!.headBottom + scroller.current!.scrollTop;
    return { instant: instantAt(scale, scale.days[day]!, top / pxPerMinute), day };
  };

  const follow = () => {
    const holding = hold.current;
    if (!holding) return;
    const { zone, scale } = latest.current;
    const { instant, day } = instantUnder(pointer.current);
    const above = pointer.current.y < geometry.current!.headBottom && holding.grip === 'move';
    const held = above
      ? wholeDays(holding.before, holding.grabbedDate, scale.days[day]!.date, zone)
      : draggedSpan(holding.grip, holding.before, holding.grabbed, instant, zone);
    const { root, scroller } = latest.current;
    const { scrollTop } = scroller.current!;
    if (holding.painted === scrollTop && sameHeld(held, holding.held)) {
      // Between two quarter hours only the statement moves.
      const said = root.current!.querySelector<HTMLElement>('[data-statement]')!;
      return follows(said, geometry.current!.bounds, pointer.current);
    }
    holding.held = held;
    holding.painted = scrollTop;
    paint(latest.current, geometry.current!, holding.item, held, pointer.current);
  };

  const scrollAtEdge = () => {
    const holding = hold.current;
    if (!holding) return;
    const box = latest.current.scroller.current!;
    const { bottom } = box.getBoundingClientRect();
    const top = geometry.current!.headBottom;
    const { y } = pointer.current;
    if (y > bottom - SCROLL_EDGE_PX) box.scrollTop += 8;
    else if (y < top + SCROLL_EDGE_PX && y > top) box.scrollTop -= 8;
    else return;
    follow();
    frame.current = requestAnimationFrame(scrollAtEdge);
  };

  const begin = (
    event: PointerEvent | globalThis.PointerEvent,
    grip: Grip,
    item: GridItem | null,
    over: GridItem | null,
  ) => {
    geometry.current = measure();
    const at = { x: event.clientX, y: event.clientY };
    pointer.current = at;
    const { instant, day } = instantUnder(at);
    const before = item
      ? { start: item.start, end: item.end, allDay: item.allDay }
      : { start: instant, end: instant + HOUR, allDay: false };
    const { scale } = latest.current;
    hold.current = {
      grip,
      item,
      before,
      grabbed: instant,
      grabbedDate: scale.days[day]!.date,
      held: before,
      painted: null,
      moved: false,
      pointerId: event.pointerId,
      origin: at,
      over,
    };
    latest.current.onGrip(item);
  };

  const release = (drop: boolean) => {
    const holding = hold.current;
    clearTimeout(pressTimer.current);
    cancelAnimationFrame(frame.current);
    hold.current = null;
    const { root, onDrop, zone } = latest.current;
    if (root.current) clearPaint(root.current);
    if (!holding || !drop) return;
    if (holding.moved) ignoreNextClick();
    const changed =
      holding.held.start !== holding.before.start ||
      holding.held.end !== holding.before.end ||
      holding.held.allDay !== holding.before.allDay;
    if (holding.grip === 'create') {
      if (holding.over && !holding.moved) return;
      // A click on free time is a wish for the usual length, which the form knows.
      const clicked = draggedSpan('create', holding.before, holding.grabbed, holding.grabbed, zone);
      onDrop(null, holding.moved ? holding.held : { ...clicked, end: clicked.start }, holding.over);
    } else if (holding.moved && changed) onDrop(holding.item, holding.held);
  };

  useEffect(() => {
    const move = (event: globalThis.PointerEvent) => {
      const holding = hold.current;
      if (!holding || event.pointerId !== holding.pointerId) {
        const { x, y } = pointer.current;
        if (Math.hypot(event.clientX - x, event.clientY - y) > MOVE_PX) {
          clearTimeout(pressTimer.current);
          tap.current = null;
        }
        return;
      }
      pointer.current = { x: event.clientX, y: event.clientY };
      const { x, y } = holding.origin;
      if (!holding.moved && Math.hypot(event.clientX - x, event.clientY - y) < MOVE_PX) return;
      if (!holding.moved) raiseShield(latest.current.root.current!);
      holding.moved = true;
      cancelAnimationFrame(frame.current);
      frame.current = requestAnimationFrame(() => {
        follow();
        scrollAtEdge();
      });
    };
    const up = (event: globalThis.PointerEvent) => {
      clearTimeout(pressTimer.current);
      const tapped = tap.current;
      tap.current = null;
      if (tapped?.pointerId === event.pointerId && !hold.current) {
        // The click that follows is not meant for the form that opens under the finger.
        ignoreNextClick();
        begin(tapped, 'create', null, null);
        return release(true);
      }
      if (hold.current?.pointerId !== event.pointerId) return;
      // Where it is let go counts, and not where the last frame saw it.
      if (hold.current.moved) {
        pointer.current = { x: event.clientX, y: event.clientY };
        follow();
      }
      release(true);
    };
    const cancel = (event: globalThis.PointerEvent) => {
      clearTimeout(pressTimer.current);
      tap.current = null;
      if (hold.current?.pointerId === event.pointerId) release(false);
    };
    const escape = (event: KeyboardEvent) => {
      if (event.key === 'Escape' && hold.current) release(false);
    };
    // A finger that holds something does not scroll the page.
    const touch = (event: TouchEvent) => {
      if (hold.current) event.preventDefault();
    };
    window.addEventListener('pointermove', move);
    window.addEventListener('pointerup', up);
    window.addEventListener('pointercancel', cancel);
    window.addEventListener('keydown', escape);
    window.addEventListener('touchmove', touch, { passive: false });
    return () => {
      window.removeEventListener('pointermove', move);
      window.removeEventListener('pointerup', up);
      window.removeEventListener('pointercancel', cancel);
      window.removeEventListener('keydown', escape);
      window.removeEventListener('touchmove', touch);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- handlers read all through refs
  }, []);

  return {
    /**
     * Takes hold at once by mouse and pen, after a moment's press by touch. `over` begins something new
     * over what cannot be moved itself.
     */
    press(event: PointerEvent, asked: Grip | 'over', touched: GridItem | null) {
      if (event.button !== 0 || hold.current) return;
      const over = asked === 'over' ? touched : null;
      const grip = asked === 'over' ? 'create' : asked;
      const item = asked === 'over' ? null : touched;
      event.stopPropagation();
      pointer.current = { x: event.clientX, y: event.clientY };
      if (event.pointerType !== 'touch') return begin(event, grip, item, over);
      const native = event.nativeEvent;
      clearTimeout(pressTimer.current);
      tap.current = asked === 'create' && touched === null ? native : null;
      pressTimer.current = window.setTimeout(() => {
        tap.current = null;
        begin(native, grip, item, over);
        hold.current!.moved = true;
        navigator.vibrate?.(10);
        follow();
      }, LONG_PRESS_MS);
    },
    /** Shows a span that is held by the keyboard. */
    show: (item: GridItem | null, held: Held) => paint(latest.current, measure(), item, held, null),
    hide: () => latest.current.root.current && clearPaint(latest.current.root.current),
    holding: () => hold.current !== null,
  };
}

/** While something is held, the browser need not look for what lies below the pointer. */
function raiseShield(box: HTMLElement): void {
  box.querySelector<HTMLElement>('[data-shield]')!.style.display = 'block';
}

/** Writes a style only when it differs: an equal one would still cost the browser a look. */
function style(
  element: HTMLElement,
  name: 'display' | 'width' | 'height' | 'top' | 'transform',
  value: string,
) {
  if (element.style[name] !== value) element.style[name] = value;
}

const sameHeld = (a: Held, b: Held): boolean =>
  a.start === b.start && a.end === b.end && a.allDay === b.allDay;

function paint(
  { root, scroller, scale, pxPerMinute, state, zone }: Parts,
  { columns, headBottom, bounds }: Geometry,
  item: GridItem | null,
  held: Held,
  pointer: { x: number; y: number } | null,
): void {
  const box = root.current;
  if (!box) return;
  if (!box.dataset.held) box.dataset.held = item?.key ?? 'new';
  const overlay = box.querySelector<HTMLElement>('[data-overlay]')!;
  style(overlay, 'display', 'block');
  style(overlay, 'top', `${headBottom - bounds.top}px`);
  const scrolled = scroller.current!.scrollTop;
  for (const ghost of overlay.querySelectorAll<HTMLElement>('[data-ghost]')) {
    const index = Number(ghost.dataset.ghost);
    const day = scale.days[index]!;
    const inside = !held.allDay && held.start < day.end && held.end > day.start;
    style(ghost, 'display', inside ? 'block' : 'none');
    if (!inside) continue;
    const top = topOf(scale, day, held.start) * pxPerMinute;
    const { left, right } = columns.find((one) => one.day === index)!;
    style(ghost, 'width', `${right - left - 4}px`);
    style(ghost, 'height', `${Math.max(12, topOf(scale, day, held.end) * pxPerMinute - top)}px`);
    style(ghost, 'transform', `translate(${left - bounds.left + 2}px, ${top - scrolled}px)`);
  }
  for (const ghost of box.querySelectorAll<HTMLElement>('[data-ghost-days]')) {
    const { date } = scale.days[Number(ghost.dataset.ghostDays)]!;
    const inside =
      held.allDay && dateAt(held.start, zone) <= date && date <= dateAt(held.end - MINUTE, zone);
    style(ghost, 'display', inside ? 'block' : 'none');
  }
  const said = box.querySelector<HTMLElement>('[data-statement]')!;
  const { text, conflict } = state(item, held);
  if (said.firstElementChild!.textContent !== text) said.firstElementChild!.textContent = text;
  if (said.lastElementChild!.textContent !== conflict)
    said.lastElementChild!.textContent = conflict;
  style(said, 'display', 'block');
  follows(said, bounds, pointer);
}

/** Keeps the statement beside the pointer, inside the grid. */
function follows(said: HTMLElement, bounds: DOMRect, pointer: { x: number; y: number } | null) {
  const x = pointer ? pointer.x - bounds.left + 16 : bounds.width / 2 - 120;
  const y = pointer ? pointer.y - bounds.top + 18 : 8;
  const left = Math.min(Math.max(4, x), bounds.width - 270);
  style(said, 'transform', `translate(${left}px, ${Math.min(y, bounds.height - 64)}px)`);
}

/** The click that ends a drag is no wish to open what was dragged. */
export function ignoreNextClick(): void {
  const stop = (event: MouseEvent) => {
    event.stopPropagation();
    event.preventDefault();
  };
  window.addEventListener('click', stop, { capture: true, once: true });
  setTimeout(() => window.removeEventListener('click', stop, { capture: true }));
}

function clearPaint(box: HTMLElement): void {
  delete box.dataset.held;
  for (const part of box.querySelectorAll<HTMLElement>(
    '[data-shield], [data-overlay], [data-ghost], [data-ghost-days], [data-statement]',
  )) {
    part.style.display = 'none';
  }
}
