import type { Interval } from '../../core/time/interval.ts';

/** Left and width of a span within a window, as a style; null where none of it is inside. */
export function placeOf(span: Interval, window: Interval): { left: string; width: string } | null {
  if (span.start >= window.end || span.end <= window.start) return null;
  const length = window.end - window.start;
  const start = Math.max(span.start, window.start);
  const end = Math.min(span.end, window.end);
  return {
    left: `${((start - window.start) / length) * 100}%`,
    width: `${((end - start) / length) * 100}%`,
  };
}
