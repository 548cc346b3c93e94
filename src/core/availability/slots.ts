import { MINUTE, type Interval } from '../time/interval.ts';

/** `count` moments, `stepMinutes` apart, beginning at `first` (epoch milliseconds). */
export interface SlotGrid {
  first: number;
  stepMinutes: number;
  count: number;
}

/** The slots that lie wholly in a window; the window should begin on a step of its zone. */
export function slotGrid(window: Interval, stepMinutes: number): SlotGrid {
  const count = Math.max(0, Math.floor((window.end - window.start) / (stepMinutes * MINUTE)));
  return { first: window.start, stepMinutes, count };
}

export const slotStart = (grid: SlotGrid, index: number): number =>
  grid.first + index * grid.stepMinutes * MINUTE;

/**
 * Counts, for every slot, how many subjects are blocked at some instant of
 * `[slot, slot + lengthMinutes)`. A span blocks the starts in `(span.start - length, span.end)`,
 * so each span is two additions to a difference array: the cost is spans + slots, whatever the length.
 */
export class BlockedCounter {
  private readonly difference: Int32Array;
  private readonly lengthMs: number;
  private readonly stepMs: number;

  constructor(
    private readonly grid: SlotGrid,
    lengthMinutes: number,
  ) {
    this.difference = new Int32Array(grid.count + 1);
    this.lengthMs = lengthMinutes * MINUTE;
    this.stepMs = grid.stepMinutes * MINUTE;
  }

  /** Adds one subject, blocked by the union of two lists that are each sorted by start. */
  add(spans: readonly Interval[], more: readonly Interval[] = []): void {
    let covered = -1;
    let i = 0;
    let j = 0;
    while (i < spans.length || j < more.length) {
      const fromFirst = j >= more.length || (i < spans.length && spans[i]!.start <= more[j]!.start);
      const span = fromFirst ? spans[i++]! : more[j++]!;
      if (span.start >= span.end) continue;
      const after = span.start - this.lengthMs - this.grid.first;
      const from = Math.max(Math.floor(after / this.stepMs) + 1, covered + 1);
      const to = Math.min(
        Math.ceil((span.end - this.grid.first) / this.stepMs) - 1,
        this.grid.count - 1,
      );
      if (from > to) continue;
      this.difference[from]!++;
      this.difference[to + 1]!--;
      covered = to;
    }
  }

  /** How many of the added subjects are blocked, slot by slot. */
  counts(): Uint16Array {
    const counts = new Uint16Array(this.grid.count);
    let running = 0;
    for (let i = 0; i < counts.length; i++) counts[i] = running += this.difference[i]!;
    return counts;
  }
}
