import { LineUpFit, type FitState } from '../../core/planner/fit.ts';
import { listNames } from '../../core/planner/words.ts';
import type { Interval } from '../../core/time/interval.ts';
import { UserError } from '../client/index.ts';
import { type KnownMember, type Member } from '../lineUp/index.ts';

const TAKEN: ReadonlySet<FitState> = new Set(['tentative', 'busy', 'away']);

/** That somebody's time was taken between choosing it and sending. */
export class TakenSince extends UserError {
  constructor(names: readonly string[]) {
    super(
      `${listNames(names)} ${names.length === 1 ? 'is' : 'are'} not free any more since you chose this time. Choose another, or send it all the same.`,
    );
  }
}

/**
 * Reads everybody's time again before something is sent to them.
 * @param members as they are shown
 * @param spans the times that are sent
 * @throws TakenSince when one of them is not free any more; what is shown is then as it is now
 */
export async function checkAgain(
  members: readonly Member[],
  spans: readonly Interval[],
  readAgain: () => Promise<KnownMember[]>,
): Promise<void> {
  if (spans.length === 0) return;
  const fresh = new Map((await readAgain()).map((one) => [one.id, one]));
  const window = {
    start: Math.min(...spans.map((span) => span.start)),
    end: Math.max(...spans.map((span) => span.end)),
  };
  const before = new LineUpFit(members, window);
  const after = new LineUpFit(
    members.map((one) => ({ ...one, ...fresh.get(one.id) })),
    window,
  );
  const taken = new Set(
    spans.flatMap((span) => {
      const was = new Map(before.at(span).map((fit) => [fit.id, fit.state]));
      return after
        .at(span)
        .filter(({ id, state }) => TAKEN.has(state) && !TAKEN.has(was.get(id)!))
        .map(({ id }) => id);
    }),
  );
  if (taken.size > 0)
    throw new TakenSince(members.filter((one) => taken.has(one.id)).map((one) => one.name));
}
