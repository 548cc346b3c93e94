import { expect, it } from 'vitest';
import { drawnAlike } from './drawnAlike.ts';

const lineUp = [1, 2];
const plan: object = { lineUp, now: 5, chosen: null };

it.each<[string, { plan: object; whole: boolean }, boolean]>([
  ['another object with the same values', { plan: { ...plan }, whole: false }, true],
  [
    'a list of its own with the same in it',
    { plan: { ...plan, lineUp: [1, 2] }, whole: false },
    false,
  ],
  ['another value', { plan: { ...plan, now: 6 }, whole: false }, false],
  ['another prop beside the plan', { plan, whole: true }, false],
  ['a value more', { plan: { ...plan, at: undefined }, whole: false }, false],
  ['a value under another name', { plan: { lineUp, now: 5, at: null }, whole: false }, false],
])(
  'a part that takes the plan is drawn as before only where nothing changed: %s',
  (_, after, same) => {
    expect(drawnAlike({ plan, whole: false }, after)).toBe(same);
  },
);
