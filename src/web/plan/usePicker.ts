import { useRef, useState, type PointerEvent } from 'react';
import { MINUTE, type Interval } from '../../core/time/interval.ts';

export const STEP = 15 * MINUTE;
const GRIP_PX = 7;

type Grip = 'new' | 'move' | 'start' | 'end';

interface Drag {
  grip: Grip;
  /** Where it began, and the selection then. */
  from: number;
  before: Interval | null;
  span: Interval;
}

/**
 * Picking a time on a day's row: a press keeps the present length, a drag over free paper makes a new
 * span, a drag of the chosen one moves it, and one of its edges makes it longer or shorter.
 */
export function usePicker({
  window,
  chosen,
  minutes,
  choose,
  onHover,
}: {
  window: Interval;
  chosen: Interval | null;
  minutes: number;
  choose: (span: Interval) => void;
  onHover: (instant: number | null) => void;
}) {
  const [drag, setDrag] = useState<Drag | null>(null);
  const held = useRef<Drag | null>(null);
  const hold = (next: Drag | null) => {
    held.current = next;
    setDrag(next);
  };
  const length = window.end - window.start;
  const rawAt = (event: PointerEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    return window.start + ((event.clientX - box.left) / box.width) * length;
  };
  const snapped = (instant: number) =>
    Math.min(
      Math.max(window.start + Math.floor((instant - window.start) / STEP) * STEP, window.start),
      window.end - STEP,
    );
  const gripAt = (event: PointerEvent<HTMLElement>): Grip => {
    if (!chosen) return 'new';
    const grip = (GRIP_PX / event.currentTarget.getBoundingClientRect().width) * length;
    const at = rawAt(event);
    if (Math.abs(at - chosen.start) <= grip) return 'start';
    if (Math.abs(at - chosen.end) <= grip) return 'end';
    return at > chosen.start && at < chosen.end ? 'move' : 'new';
  };
  return {
    dragged: drag?.span ?? null,
    handlers: {
      onPointerDown: (event: PointerEvent<HTMLElement>) => {
        if (event.button !== 0) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        const grip = gripAt(event);
        const at = snapped(rawAt(event));
        const fresh = { start: at, end: at + minutes * MINUTE };
        hold({ grip, from: at, before: chosen, span: grip === 'new' ? fresh : chosen! });
      },
      onPointerMove: (event: PointerEvent<HTMLElement>) => {
        onHover(snapped(rawAt(event)));
        const now = held.current;
        if (now) hold({ ...now, span: spanOf(now, snapped(rawAt(event)), minutes) });
        else event.currentTarget.style.cursor = CURSORS[gripAt(event)];
      },
      onPointerLeave: () => onHover(null),
      onPointerUp: () => {
        if (held.current) choose(held.current.span);
        hold(null);
      },
      onPointerCancel: () => hold(null),
    },
  };
}

const CURSORS: Record<Grip, string> = {
  new: 'crosshair',
  move: 'grab',
  start: 'ew-resize',
  end: 'ew-resize',
};

function spanOf({ grip, from, before }: Drag, at: number, minutes: number): Interval {
  if (grip === 'new') {
    return from === at
      ? { start: from, end: from + minutes * MINUTE }
      : { start: Math.min(from, at), end: Math.max(from, at) + STEP };
  }
  const { start, end } = before!;
  if (grip === 'move') return { start: start + at - from, end: end + at - from };
  // An edge follows the pointer by the quarter hour, and never passes the other one.
  if (grip === 'start') return { start: Math.min(at, end - STEP), end };
  return { start, end: Math.max(at + STEP, start + STEP) };
}
