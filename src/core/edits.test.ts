import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { editsOf, takeEditsBack } from './edits.ts';

const PATHS = ['name', 'seats', 'rules/open', 'rules/teams'] as const;
const values = fc
  .record(Object.fromEntries(PATHS.map((path) => [path, fc.option(fc.nat({ max: 3 }))])))
  .map((record) => new Map<string, unknown>(Object.entries(record)));

describe('the edits of a change', () => {
  it('name what differs, and taken back at once give what there was', () => {
    fc.assert(
      fc.property(values, values, (before, after) => {
        const edits = editsOf(before, after);
        expect(edits.map((one) => one.path).sort()).toEqual(
          PATHS.filter((path) => before.get(path) !== after.get(path)).sort(),
        );
        const { values: taken, left } = takeEditsBack(after, edits);
        expect(left).toEqual([]);
        expect(Object.fromEntries(taken)).toEqual(Object.fromEntries(before));
      }),
    );
  });

  it('taken back later leave what somebody else changed, and name it', () => {
    fc.assert(
      fc.property(values, values, values, (before, after, present) => {
        const { values: taken, left } = takeEditsBack(present, editsOf(before, after));
        for (const path of PATHS) {
          const isEdited = before.get(path) !== after.get(path);
          const stands = present.get(path) === after.get(path);
          expect(taken.get(path)).toBe(isEdited && stands ? before.get(path) : present.get(path));
          expect(left.some((one) => one.path === path)).toBe(isEdited && !stands);
        }
      }),
    );
  });
});
