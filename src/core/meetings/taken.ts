import { withOverride } from '../recurrence/series.ts';
import type { WallTime } from '../time/wall.ts';
import { overrideAt } from './dates.ts';
import { numbered, type Decision } from './decision.ts';
import { planOf, type Meeting } from './meeting.ts';

/** A coming date of a series on which somebody else has a place that it wants. */
export interface TakenPlace {
  recurrenceId: WallTime;
  /** Epoch milliseconds. */
  start: number;
  resourceId: number;
}

/**
 * A series goes on without what it could not get on coming dates, as those dates' own lists: so it is seen,
 * and can be changed. Its organizer is told.
 * @param taken at least one, by their starts
 * @param nameOf the names of places
 */
export function decideTaken(
  before: Meeting & { rule: string },
  taken: readonly TakenPlace[],
  nameOf: (resourceId: number) => string,
): Decision {
  let plan = planOf(before);
  for (const { recurrenceId, resourceId } of taken) {
    const override = overrideAt(plan, recurrenceId);
    const wanted = override.details.resources ?? before.resources;
    const resources = wanted.filter((id) => id !== resourceId);
    plan = withOverride(plan, { ...override, details: { ...override.details, resources } });
  }
  const after = numbered(before, { ...before, overrides: plan.overrides });
  const [first] = taken;
  return {
    changes: [{ before, after }],
    facts: [
      {
        kind: 'dates-taken',
        meetingId: before.id,
        occurrence: first!.recurrenceId,
        tell: false,
        message: '',
        details: {
          place: nameOf(first!.resourceId),
          resource: first!.resourceId,
          dates: taken.map(({ start, recurrenceId, resourceId }) => [
            start,
            recurrenceId,
            resourceId,
          ]),
        },
      },
    ],
    notes: [],
    answer: { id: before.id, occurrence: null },
    undo: { id: before.id, version: after.version },
  };
}
