import { overlaps, type Interval } from '../../core/time/interval.ts';

export interface PlacedBlock<T> {
  item: T;
  /** From 0, of `columns` side by side. */
  column: number;
  columns: number;
  /** Over how many of them it may be drawn, since nothing beside it overlaps it. */
  span: number;
}

/**
 * Puts overlapping items side by side: each group of items that hang together shares its width
 * between as many columns as overlap at once, and reaches over those beside it that are free then.
 */
export function layOutDay<T extends Interval>(
  items: readonly T[],
  window: Interval,
): PlacedBlock<T>[] {
  const shown = items
    .filter((item) => item.start < window.end && item.end > window.start)
    .sort((a, b) => a.start - b.start || b.end - a.end);
  const placed: PlacedBlock<T>[] = [];
  let group: PlacedBlock<T>[] = [];
  let ends: number[] = [];
  const close = () => {
    for (const one of group) {
      one.columns = ends.length;
      const beside = group.filter(
        (other) => other.column > one.column && overlaps(other.item, one.item),
      );
      one.span = Math.min(ends.length, ...beside.map((other) => other.column)) - one.column;
    }
    placed.push(...group);
    group = [];
    ends = [];
  };
  for (const item of shown) {
    if (ends.length > 0 && ends.every((end) => end <= item.start)) close();
    const free = ends.findIndex((end) => end <= item.start);
    const column = free >= 0 ? free : ends.length;
    ends[column] = item.end;
    group.push({ item, column, columns: 1, span: 1 });
  }
  close();
  return placed;
}
