import { expose } from 'comlink';
import { concessions } from '../../core/planner/blockers.ts';
import type { LineUpMember, Wishes } from '../../core/planner/lineUp.ts';
import { openings } from '../../core/planner/openings.ts';
import { ridge } from '../../core/planner/ridge.ts';

/** Everything Plan shows for one line-up and one set of wishes. */
function compute(members: LineUpMember[], wishes: Wishes) {
  return {
    ridge: ridge(members, wishes),
    openings: openings(members, wishes),
    concessions: concessions(members, wishes),
  };
}

const planner = { compute };
export type Planner = typeof planner;
export type Computed = ReturnType<typeof compute>;

expose(planner);
