import { MINUTE, type Interval } from '../time/interval.ts';
import { NO_SPANS, type Spans } from '../time/spans.ts';

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

/** The moments of a window at which something can start, be it in its very last step. */
export function startGrid(window: Interval, stepMinutes: number): SlotGrid {
  const count = Math.max(0, Math.ceil((window.end - window.start) / (stepMinutes * MINUTE)));
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
  private readonly tags: Int32Array;
  private readonly lengthMs: number;
  private readonly stepMs: number;

  constructor(
    private readonly grid: SlotGrid,
    lengthMinutes: number,
  ) {
    this.difference = new Int32Array(grid.count + 1);
    this.tags = new Int32Array(grid.count + 1);
    this.lengthMs = lengthMinutes * MINUTE;
    this.stepMs = grid.stepMinutes * MINUTE;
  }

  /**
   * Adds one subject, blocked by the union of two lists.
   * @param tag a number to know it by where it is the only one; see `tagSums`
   */
  add(spans: Spans, more: Spans = NO_SPANS, tag = 0): void {
    const { first, count } = this.grid;
    const { lengthMs, stepMs } = this;
    let covered = -1;
    let i = 0;
    let j = 0;
    while (i < spans.length || j < more.length) {
      const fromFirst = j >= more.length || (i < spans.length && spans[i]! <= more[j]!);
      const start = fromFirst ? spans[i]! : more[j]!;
      const end = fromFirst ? spans[i + 1]! : more[j + 1]!;
      if (fromFirst) i += 2;
      else j += 2;
      const from = Math.max(Math.floor((start - lengthMs - first) / stepMs) + 1, covered + 1);
      const to = Math.min(Math.ceil((end - first) / stepMs) - 1, count - 1);
      if (from > to) continue;
      this.addRun(from, to, tag);
      covered = to;
    }
  }

  /** Adds to the slots `from` to `to`, both included. */
  addRun(from: number, to: number, tag = 0): void {
    this.difference[from]!++;
    this.difference[to + 1]!--;
    if (tag !== 0) {
      this.tags[from]! += tag;
      this.tags[to + 1]! -= tag;
    }
  }

  /** How many of the added subjects are blocked, slot by slot. */
  counts(): Uint16Array {
    const counts = new Uint16Array(this.grid.count);
    let running = 0;
    for (let i = 0; i < counts.length; i++) counts[i] = running += this.difference[i]!;
    return counts;
  }

  /** The sum of the tags of whoever is blocked: where one alone is, its tag. */
  tagSums(): Int32Array {
    const sums = new Int32Array(this.grid.count);
    let running = 0;
    for (let i = 0; i < sums.length; i++) sums[i] = running += this.tags[i]!;
    return sums;
  }
}

/** Sums over slots of values that hold for runs of them or grow evenly along them: two additions a run. */
export class SlotSums {
  private readonly level: Float64Array;
  private readonly slope: Float64Array;

  constructor(private readonly grid: SlotGrid) {
    this.level = new Float64Array(grid.count + 1);
    this.slope = new Float64Array(grid.count + 1);
  }

  /**
   * Adds to every start in `[from, to]` (instants, both included) a value that is `value` at `from`
   * and grows by `perMinute`.
   */
  add(from: number, to: number, value: number, perMinute = 0): void {
    const { first, stepMinutes, count } = this.grid;
    const step = stepMinutes * MINUTE;
    const begin = Math.max(0, Math.ceil((from - first) / step));
    const end = Math.min(count - 1, Math.floor((to - first) / step));
    if (begin > end) return;
    const perSlot = perMinute * stepMinutes;
    const atBegin = value + ((first + begin * step - from) / MINUTE) * perMinute;
    this.level[begin]! += atBegin;
    this.slope[begin]! += perSlot;
    // Slot k has the level of k plus the slopes of the slots up to k - 1.
    this.level[end + 1]! -= atBegin + perSlot * (end - begin + 1);
    this.slope[end + 1]! -= perSlot;
  }

  /** The sums, slot by slot. */
  values(): Float64Array {
    const values = new Float64Array(this.grid.count);
    let level = 0;
    let slope = 0;
    for (let i = 0; i < values.length; i++) {
      level += slope + this.level[i]!;
      slope += this.slope[i]!;
      values[i] = level;
    }
    return values;
  }
}
