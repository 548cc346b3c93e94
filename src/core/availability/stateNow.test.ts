import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { BusyInterval } from './busy.ts';
import { stateNow } from './stateNow.ts';

const span = (start: number, end: number, occupancy: BusyInterval['occupancy'] = 'busy') => ({
  start,
  end,
  occupancy,
});

describe('how somebody’s time is now', () => {
  it.each([
    ['nothing on', [], { state: 'free', until: null }],
    ['something later', [span(20, 30)], { state: 'free', until: 20 }],
    ['in something', [span(5, 15)], { state: 'busy', until: 15 }],
    ['one after the other', [span(15, 25), span(5, 15)], { state: 'busy', until: 25 }],
    ['begins this moment', [span(10, 12)], { state: 'busy', until: 12 }],
    ['ended this moment', [span(5, 10)], { state: 'free', until: null }],
    ['away over a meeting', [span(0, 50, 'away'), span(8, 20)], { state: 'away', until: 50 }],
    [
      'perhaps, then surely',
      [span(5, 15, 'tentative'), span(15, 20)],
      { state: 'tentative', until: 15 },
    ],
  ] as const)('%s', (_, busy, expected) => expect(stateNow(busy, 10)).toEqual(expected));

  it('holds at every instant until it ends, and not there', () => {
    const spans = fc.array(
      fc
        .tuple(
          fc.nat(40),
          fc.integer({ min: 1, max: 15 }),
          fc.constantFrom('busy', 'away', 'tentative'),
        )
        .map(([start, length, occupancy]) => span(start, start + length, occupancy as 'busy')),
      { maxLength: 8 },
    );
    fc.assert(
      fc.property(spans, fc.nat(50), (busy, now) => {
        const { state, until } = stateNow(busy, now);
        const last = until ?? 100;
        for (let t = now; t < last; t++) expect(stateNow(busy, t).state).toBe(state);
        if (until !== null) expect(stateNow(busy, until).state).not.toBe(state);
      }),
    );
  });
});
