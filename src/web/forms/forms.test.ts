import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rebased } from './useKeptForm.ts';

describe('what is typed while somebody else saves', () => {
  const part = fc.constantFrom('a', 'b', 'c');
  const content = fc.record({ title: part, place: part, times: fc.record({ start: part }) });

  it('stays wherever it was typed, and follows them everywhere else', () => {
    fc.assert(
      fc.property(content, content, content, (start, mine, theirs) => {
        const { content: after, differences } = rebased(start, mine, theirs);
        for (const field of ['title', 'place', 'times'] as const) {
          const touched = JSON.stringify(mine[field]) !== JSON.stringify(start[field]);
          expect(after[field]).toEqual(touched ? mine[field] : theirs[field]);
          const isTold = differences.some((one) => one.part === field);
          const theyChanged = JSON.stringify(start[field]) !== JSON.stringify(theirs[field]);
          const differs = JSON.stringify(mine[field]) !== JSON.stringify(theirs[field]);
          expect(isTold).toBe(theyChanged && differs);
        }
      }),
    );
  });
});
