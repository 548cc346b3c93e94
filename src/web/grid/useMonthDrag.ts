import { useEffect, useRef, type PointerEvent, type RefObject } from 'react';
import { addDays, dateAt, daysBetween } from '../../core/time/wall.ts';
import type { GridItem } from './gridItems.ts';
import { ignoreNextClick } from './useGridDrag.ts';

const MOVE_PX = 5;
const LONG_PRESS_MS = 350;
const KEY_DAYS: Record<string, number> = {
  ArrowLeft: -1,
  ArrowRight: 1,
  ArrowUp: -7,
  ArrowDown: 7,
};

interface Hold {
  item: GridItem;
  pointerId: number | null;
  from: string;
  to: string;
  origin: { x: number; y: number };
  moved: boolean;
}

/**
 * Moves items between the days of a month by pointer, touch and keys. Days are marked with
 * `data-date`; the one below the pointer gets `data-over`.
 */
export function useMonthDrag(parts: {
  root: RefObject<HTMLElement | null>;
  zone: string;
  say: (item: GridItem, days: number) => string;
  onDrop: (item: GridItem, days: number) => void;
}) {
  const latest = useRef(parts);
  useEffect(() => {
    latest.current = parts;
  });
  const hold = useRef<Hold | null>(null);
  const timer = useRef<number | undefined>(undefined);

  const mark = (at: { x: number; y: number } | null) => {
    const { root, say } = latest.current;
    const box = root.current!;
    box.querySelector('[data-over]')?.removeAttribute('data-over');
    const statement = box.querySelector<HTMLElement>('[data-statement]')!;
    const holding = hold.current;
    statement.style.display = holding ? 'block' : 'none';
    if (!holding) return;
    const cell = box.querySelector<HTMLElement>(`[data-date="${holding.to}"]`);
    cell?.setAttribute('data-over', 'true');
    statement.textContent = say(holding.item, daysBetween(holding.from, holding.to));
    const place = cell?.getBoundingClientRect();
    const x = at ? at.x + 14 : (place?.left ?? 0) + 8;
    const y = at ? at.y + 16 : (place?.bottom ?? 0) - 30;
    statement.style.transform = `translate(${Math.min(x, window.innerWidth - 260)}px, ${y}px)`;
  };

  const release = (drop: boolean) => {
    clearTimeout(timer.current);
    const holding = hold.current;
    hold.current = null;
    if (!holding) return;
    mark(null);
    if (holding.moved && holding.pointerId !== null) ignoreNextClick();
    const days = daysBetween(holding.from, holding.to);
    if (drop && days !== 0) latest.current.onDrop(holding.item, days);
  };

  useEffect(() => {
    const move = (event: globalThis.PointerEvent) => {
      const holding = hold.current;
      if (!holding || holding.pointerId !== event.pointerId) return clearTimeout(timer.current);
      const { x, y } = holding.origin;
      if (!holding.moved && Math.hypot(event.clientX - x, event.clientY - y) < MOVE_PX) return;
      holding.moved = true;
      const under = document.elementsFromPoint(event.clientX, event.clientY);
      const cell = under.find(
        (one): one is HTMLElement => one instanceof HTMLElement && !!one.dataset.date,
      );
      if (cell) holding.to = cell.dataset.date!;
      mark({ x: event.clientX, y: event.clientY });
    };
    const up = (event: globalThis.PointerEvent) => {
      clearTimeout(timer.current);
      if (hold.current?.pointerId === event.pointerId) release(true);
    };
    const cancel = () => release(false);
    const keys = (event: KeyboardEvent) => {
      const holding = hold.current;
      if (!holding) return;
      const days = KEY_DAYS[event.key];
      if (days) {
        holding.to = addDays(holding.to, days);
        mark(null);
      } else if (event.key === 'Enter' || event.key === ' ') release(true);
      else if (event.key === 'Escape') release(false);
      else return;
      event.preventDefault();
      event.stopPropagation();
    };
    const touch = (event: TouchEvent) => {
      if (hold.current) event.preventDefault();
    };
    window.addEventListener('pointermove', move);
    window.addEventListener('pointerup', up);
    window.addEventListener('pointercancel', cancel);
    window.addEventListener('keydown', keys, { capture: true });
    window.addEventListener('touchmove', touch, { passive: false });
    return () => {
      window.removeEventListener('pointermove', move);
      window.removeEventListener('pointerup', up);
      window.removeEventListener('pointercancel', cancel);
      window.removeEventListener('keydown', keys, { capture: true });
      window.removeEventListener('touchmove', touch);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- handlers read all through refs
  }, []);

  const begin = (
    item: GridItem,
    pointerId: number | null,
    origin: { x: number; y: number },
    from: string,
  ) => {
    hold.current = { item, pointerId, from, to: from, origin, moved: false };
  };

  return {
    press(event: PointerEvent, item: GridItem) {
      if (event.button !== 0) return;
      const at = { x: event.clientX, y: event.clientY };
      const under = document
        .elementsFromPoint(at.x, at.y)
        .find((one): one is HTMLElement => one instanceof HTMLElement && !!one.dataset.date);
      const from = under?.dataset.date ?? dateAt(item.start, latest.current.zone);
      const { pointerId } = event;
      if (event.pointerType !== 'touch') return begin(item, pointerId, at, from);
      timer.current = window.setTimeout(() => {
        begin(item, pointerId, at, from);
        mark(at);
      }, LONG_PRESS_MS);
    },
    pickUp(item: GridItem) {
      begin(item, null, { x: 0, y: 0 }, dateAt(item.start, latest.current.zone));
      mark(null);
    },
  };
}
