import { slotStart, type SlotGrid } from '../availability/slots.ts';
import { brokenByLength, type BookingTerms } from '../booking/terms.ts';
import { DAY, MINUTE } from '../time/interval.ts';
import { NO_SPANS, type Spans } from '../time/spans.ts';
import { offsetAt, zoneTable } from '../time/zoneTable.ts';

/**
 * The starts of a grid at which a place's terms refuse a meeting of a length, as spans that block just
 * those in a `BlockedCounter` of that grid and length. Like changeovers they may end before they begin.
 * It agrees with `keepsTerms` at every start, for the cost of an addition or two a start.
 */
export function refusedStarts(
  terms: BookingTerms | null | undefined,
  grid: SlotGrid,
  lengthMinutes: number,
): Spans {
  if (!terms || grid.count === 0) return NO_SPANS;
  const refused = new Uint8Array(grid.count);
  if (brokenByLength(terms, lengthMinutes).length > 0) refused.fill(1);
  else {
    refuseOffStep(refused, grid, terms);
    refuseFullWeeks(refused, grid, lengthMinutes, terms);
  }
  return spansOfStarts(refused, grid, lengthMinutes);
}

function refuseOffStep(
  refused: Uint8Array,
  grid: SlotGrid,
  { stepMinutes: step, zone }: BookingTerms,
): void {
  if (step === null) return;
  const end = slotStart(grid, grid.count);
  const table = zoneTable(zone, { start: grid.first, end });
  for (let slot = 0; slot < grid.count; slot++) {
    const at = slotStart(grid, slot);
    if ((((at + offsetAt(table, at)) % DAY) / MINUTE) % step !== 0) refused[slot] = 1;
  }
}

/** More than is left of a week lies within it when a meeting reaches into it by more, at either end. */
function refuseFullWeeks(
  refused: Uint8Array,
  grid: SlotGrid,
  lengthMinutes: number,
  { weeklyMinutes, weeks }: BookingTerms,
): void {
  if (weeklyMinutes === null) return;
  const [length, step] = [lengthMinutes * MINUTE, grid.stepMinutes * MINUTE];
  for (const { start, end, had } of weeks) {
    const left = Math.max(0, weeklyMinutes - had) * MINUTE;
    if (length <= left || end - start <= left) continue;
    const from = Math.floor((start + left - length - grid.first) / step) + 1;
    const to = Math.ceil((end - left - grid.first) / step);
    refused.fill(1, Math.max(0, from), Math.max(0, to));
  }
}

/** A span blocks the starts in `(start - length, end)`: from just after a slot before the run, to its last. */
function spansOfStarts(refused: Uint8Array, grid: SlotGrid, lengthMinutes: number): Spans {
  const spans: number[] = [];
  for (let slot = 0; slot < grid.count; slot++) {
    if (refused[slot] === 0) continue;
    const from = slot;
    while (slot + 1 < grid.count && refused[slot + 1] === 1) slot++;
    spans.push(slotStart(grid, from) + lengthMinutes * MINUTE - 1, slotStart(grid, slot) + 1);
  }
  return Float64Array.from(spans);
}
