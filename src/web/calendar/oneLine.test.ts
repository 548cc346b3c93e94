import { expect, it } from 'vitest';
import { withoutRoom } from './OneLine.tsx';

const parts = [
  { key: 'title', leaves: null },
  { key: 'day', leaves: 1 },
  { key: 'add', leaves: 2 },
  { key: 'new', leaves: null },
];
const widths = new Map(parts.map(({ key }) => [key, 100]));

it('what is needed least leaves a line first, and no more than has to', () => {
  // Four of a hundred, three gaps of ten.
  expect(withoutRoom(parts, widths, 430)).toEqual([]);
  expect(withoutRoom(parts, widths, 429)).toEqual(['day']);
  // Three, two gaps, and the way to the others beside them.
  expect(withoutRoom(parts, widths, 376)).toEqual(['day']);
  expect(withoutRoom(parts, widths, 375)).toEqual(['day', 'add']);
  // What stays stays, also where there is no room for it.
  expect(withoutRoom(parts, widths, 50)).toEqual(['day', 'add']);
});
