import { describe, expect, it } from 'vitest';
import { neighbours, wayBetween, type Spot } from './way.ts';

const spot = (name: string, floor: string, site = 'Skerry House'): Spot => ({ name, floor, site });

describe('the way between two places', () => {
  it.each([
    [spot('Gannet', '1'), spot('Gannet', '1'), 'in the same room'],
    [spot('Gannet', '1'), spot('Puffin', '1'), 'on the same floor'],
    [spot('Gannet', '1'), spot('Skua', '2'), 'one floor up'],
    [spot('Skua', '4'), spot('Gannet', '1'), '3 floors down'],
    [spot('Gannet', '1'), spot('Petrel', '1', 'Bluff Station'), 'at another site, Bluff Station'],
    [spot('Gannet', 'G'), spot('Skua', '2'), 'in the same house'],
    [spot('Gannet', ''), spot('Skua', ''), 'in the same house'],
  ])('from %o to %o: %s', (from, to, words) => expect(wayBetween(from, to)).toBe(words));
});

describe('what is before and after a time', () => {
  const item = (start: number, end: number, more = {}) => ({
    start,
    end,
    allDay: false,
    occupancy: 'busy' as const,
    ...more,
  });
  it('is the last that ended and the first that begins, of what takes time', () => {
    const items = [
      item(0, 10),
      item(5, 20),
      item(15, 30, { occupancy: 'free' }),
      item(0, 100, { allDay: true }),
      item(50, 60),
      item(45, 70),
    ];
    const found = neighbours(items, { start: 30, end: 45 });
    expect(found.before).toBe(items[1]);
    expect(found.after).toBe(items[5]);
  });

  it('is nothing where there is nothing, and what overlaps is neither', () => {
    expect(neighbours([item(20, 40)], { start: 30, end: 45 })).toEqual({
      before: null,
      after: null,
    });
  });
});
