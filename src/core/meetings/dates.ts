import { happenings, withOverride } from '../recurrence/series.ts';
import { invalid } from '../refusal.ts';
import { DAY } from '../time/interval.ts';
import { resolveWallTime, type WallTime } from '../time/wall.ts';
import { NOTHING_OF_ITS_OWN, type MeetingPlan, type OccurrenceOverride } from './meeting.ts';
import { namingField, readTiming } from './timing.ts';

/** What to do about a date of a series on which a resource is taken. */
export type DateChoice =
  | { do: 'leave-out'; at: WallTime }
  | { do: 'without'; at: WallTime; resourceId: number }
  | { do: 'instead'; at: WallTime; resourceId: number; instead: number }
  | { do: 'move'; at: WallTime; startsAt: WallTime; endsAt: WallTime };

/** The override of an occurrence, or an empty one to begin with. */
export const overrideAt = (
  { overrides }: Pick<MeetingPlan, 'overrides'>,
  at: WallTime,
): OccurrenceOverride =>
  overrides.find((one) => one.recurrenceId === at) ?? {
    recurrenceId: at,
    cancelled: false,
    timing: null,
    details: NOTHING_OF_ITS_OWN,
  };

/** Whether a series happens at a place of its rule. */
export function happensAt(plan: MeetingPlan, at: WallTime): boolean {
  const instant = resolveWallTime(at, plan.zone).instant;
  const around = { start: instant - DAY, end: instant + DAY };
  return namingField('repeats.rule', () => happenings(plan, around)).some(
    (one) => one.recurrenceId === at,
  );
}

/**
 * Puts into a series what was chosen for single dates.
 * @param resources those that the series wants
 * @throws Refusal naming a choice for a date on which the series does not happen
 */
export function withChoices(
  plan: MeetingPlan,
  choices: readonly DateChoice[],
  resources: readonly number[],
): MeetingPlan {
  const dates = datesOfYears(
    plan,
    choices.map((choice) => choice.at),
  );
  return choices.reduce((chosen, choice, k) => {
    if (!dates.has(choice.at)) {
      throw invalid([
        { field: `dates.${k}.at`, message: 'must be a date on which the series happens' },
      ]);
    }
    return withChoice(chosen, choice, resources, `dates.${k}`);
  }, plan);
}

/** The dates on which a series happens in the years of some dates, each year looked at once. */
function datesOfYears(plan: MeetingPlan, dates: readonly WallTime[]): ReadonlySet<WallTime> {
  const years = [...new Set(dates.map((at) => Number(at.slice(0, 4))))];
  return namingField(
    'repeats.rule',
    () =>
      new Set(
        years.flatMap((year) =>
          happenings(plan, {
            start: Date.UTC(year, 0, 1) - DAY,
            end: Date.UTC(year + 1, 0, 1) + DAY,
          }).map((one) => one.recurrenceId!),
        ),
      ),
  );
}

function withChoice(
  plan: MeetingPlan,
  choice: DateChoice,
  resources: readonly number[],
  field: string,
): MeetingPlan {
  const override = overrideAt(plan, choice.at);
  const present = override.details.resources ?? resources;
  const withResources = (ids: number[]) =>
    withOverride(plan, { ...override, details: { ...override.details, resources: ids } });
  switch (choice.do) {
    case 'leave-out':
      return { ...plan, except: [...plan.except, choice.at] };
    case 'without':
      return withResources(present.filter((id) => id !== choice.resourceId));
    case 'instead':
      return withResources([
        ...new Set(present.map((id) => (id === choice.instead ? choice.resourceId : id))),
      ]);
    case 'move': {
      const { startsAt, endsAt } = choice;
      const { zone, allDay } = plan;
      const times = { startsAt, endsAt, zone, endZone: null, fold: 'earlier' as const, allDay };
      return withOverride(plan, { ...override, timing: readTiming(times, field).timing });
    }
  }
}
