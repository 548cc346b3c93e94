import type { DateChoice } from '../../contract/events.ts';
import { happenings, withOverride } from '../../core/recurrence/series.ts';
import { DAY } from '../../core/time/interval.ts';
import { resolveWallTime, type WallTime } from '../../core/time/wall.ts';
import type { Transaction } from '../db/transaction.ts';
import { invalid } from '../http/problem.ts';
import { checkResources } from '../places/service.ts';
import { NOTHING_OF_ITS_OWN, type EventPlan, type OccurrenceOverride } from './model.ts';
import { naming, readTimes } from './timing.ts';

/** The override of an occurrence, or an empty one to begin with. */
export const overrideAt = (plan: EventPlan, at: WallTime): OccurrenceOverride =>
  plan.overrides.find((one) => one.recurrenceId === at) ?? {
    recurrenceId: at,
    cancelled: false,
    timing: null,
    details: NOTHING_OF_ITS_OWN,
  };

/** Whether a series happens at a place of its rule. */
export function happensAt(plan: EventPlan, at: WallTime): boolean {
  const instant = resolveWallTime(at, plan.zone).instant;
  const around = { start: instant - DAY, end: instant + DAY };
  return naming('repeats.rule', () => happenings(plan, around)).some(
    (one) => one.recurrenceId === at,
  );
}

/**
 * Puts into a series what was chosen for the dates on which resources are taken.
 * @throws Problem 400 naming a choice for a date on which the series does not happen
 */
export async function applyChoices(
  tx: Transaction,
  plan: EventPlan,
  choices: readonly DateChoice[],
  resources: readonly number[],
): Promise<EventPlan> {
  let chosen = plan;
  const others = choices.map((choice) => (choice.do === 'instead' ? choice.resourceId : null));
  await checkResources(
    tx,
    others.flatMap((id) => id ?? []),
    () => 'dates.resourceId',
  );
  choices.forEach((choice, k) => {
    if (!happensAt(plan, choice.at)) {
      throw invalid([
        { field: `dates.${k}.at`, message: 'must be a date on which the series happens' },
      ]);
    }
    chosen = withChoice(chosen, choice, resources, `dates.${k}`);
  });
  return chosen;
}

function withChoice(
  plan: EventPlan,
  choice: DateChoice,
  resources: readonly number[],
  field: string,
): EventPlan {
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
      const { timing } = readTimes(
        {
          startsAt: choice.startsAt,
          endsAt: choice.endsAt,
          zone: plan.zone,
          endZone: null,
          fold: 'earlier',
          allDay: plan.allDay,
        },
        field,
      );
      return withOverride(plan, { ...override, timing });
    }
  }
}
