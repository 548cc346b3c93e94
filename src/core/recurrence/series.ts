import { MINUTE, type Interval } from '../time/interval.ts';
import { addDays, resolveWallTime, wallTimeAt, type Fold, type WallTime } from '../time/wall.ts';
import { expandSeries, wallTimesFrom } from './expand.ts';
import { parseRule, ruleText } from './rule.ts';
import { nearestStart, sameRhythm, shiftRule } from './shift.ts';

/** When an event happens: once, or by a rule. */
export interface EventTiming {
  startsAt: WallTime;
  zone: string;
  fold: Fold;
  /** Exact minutes; of whole days 1440 for each day. */
  lengthMinutes: number;
  allDay: boolean;
}

/** What is different about one occurrence of a series. */
export interface Override<Details> {
  /** The wall time by which the rule names the occurrence (RECURRENCE-ID). */
  recurrenceId: WallTime;
  cancelled: boolean;
  /** Times of its own; null where it stays where the rule puts it. */
  timing: EventTiming | null;
  details: Details;
}

/** A series with everything that decides when it happens. */
export interface SeriesPlan<Details> extends EventTiming {
  rule: string;
  /** Occurrences left out (EXDATE). */
  except: WallTime[];
  overrides: Override<Details>[];
}

export interface Happening extends Interval {
  recurrenceId: WallTime;
}

/** The instants of a single span; whole days end at a midnight, however long the clock makes them. */
export function timingInterval(timing: EventTiming): Interval {
  const { startsAt, zone, fold, lengthMinutes, allDay } = timing;
  const start = resolveWallTime(startsAt, zone, fold).instant;
  if (!allDay) return { start, end: start + lengthMinutes * MINUTE };
  const days = Math.max(1, Math.round(lengthMinutes / 1440));
  return {
    start,
    end: resolveWallTime(addDays(startsAt.slice(0, 10), days) + 'T00:00', zone).instant,
  };
}

/**
 * The occurrences whose place in the rule lies inside `window`, overrides applied, in the rule's
 * order; a moved one may lie outside the window.
 * @throws RuleError when the rule cannot be read
 */
export function happenings<Details>(plan: SeriesPlan<Details>, window: Interval): Happening[] {
  const overrides = new Map(plan.overrides.map((one) => [one.recurrenceId, one]));
  return expandSeries(plan, window).flatMap((occurrence) => {
    const override = overrides.get(occurrence.recurrenceId);
    if (override?.cancelled) return [];
    if (!override?.timing) return [occurrence];
    return [{ recurrenceId: occurrence.recurrenceId, ...timingInterval(override.timing) }];
  });
}

/** The plan with an override put in, or put in the place of the one that is there. */
export const withOverride = <Details>(
  plan: SeriesPlan<Details>,
  override: Override<Details>,
): SeriesPlan<Details> => ({
  ...plan,
  overrides: [
    ...plan.overrides.filter((one) => one.recurrenceId !== override.recurrenceId),
    override,
  ],
});

/**
 * Cuts a series in two before the occurrence `at`: what was, ended by UNTIL on the day before, and
 * what follows, beginning with `at`. Each keeps its own exceptions and overrides.
 * @returns head null when `at` is the first occurrence
 */
export function splitSeries<Details>(
  plan: SeriesPlan<Details>,
  at: WallTime,
): { head: SeriesPlan<Details> | null; tail: SeriesPlan<Details> } {
  const rule = parseRule(plan.rule);
  const before = wallTimesFrom(rule, plan.startsAt, at).filter((wall) => wall < at);
  if (before.length === 0) return { head: null, tail: plan };
  const dayBefore = addDays(at.slice(0, 10), -1);
  const part = (keeps: (wall: WallTime) => boolean) => ({
    except: plan.except.filter(keeps),
    overrides: plan.overrides.filter((one) => keeps(one.recurrenceId)),
  });
  return {
    head: {
      ...plan,
      ...part((wall) => wall < at),
      rule: ruleText({ ...rule, count: null, until: dayBefore }),
    },
    tail: {
      ...plan,
      ...part((wall) => wall >= at),
      startsAt: at,
      // Dates that were left out count as well (RFC 5545 section 3.8.5.1).
      rule: ruleText({
        ...rule,
        count: rule.count === null ? null : rule.count - countBefore(plan, at),
      }),
    },
  };
}

/** How many occurrences of the rule lie before `at`, exceptions included, skipped local times not. */
function countBefore<Details>(plan: SeriesPlan<Details>, at: WallTime): number {
  const window = {
    start: resolveWallTime(plan.startsAt, plan.zone).instant,
    end: resolveWallTime(at, plan.zone).instant,
  };
  return expandSeries({ ...plan, except: [] }, window).length;
}

export interface Reshaped<Details> {
  plan: SeriesPlan<Details>;
  /** Recurrence ids with something of their own that nothing corresponds to any more. */
  dropped: WallTime[];
  /** How occurrences of the series before are named now; those that are gone are missing. */
  renamed: Rename;
}

/** The names that occurrences have after a change, by those before it. */
export type Rename = (occurrences: readonly WallTime[]) => ReadonlyMap<WallTime, WallTime>;

/**
 * Gives a series another start, zone, length or rule. Exceptions and overrides go along where they
 * still make sense: paired occurrence by occurrence while the rhythm is the same, else by date.
 * An occurrence that has times of its own keeps them.
 */
export function reshapeSeries<Details>(
  plan: SeriesPlan<Details>,
  next: EventTiming & { rule: string },
): Reshaped<Details> {
  const ids = [...plan.except, ...plan.overrides.map((one) => one.recurrenceId)];
  const moved = correspondence(plan, next, ids);
  return {
    plan: {
      ...next,
      except: plan.except.flatMap((id) => moved.get(id) ?? []),
      overrides: plan.overrides.flatMap((one) => {
        const recurrenceId = moved.get(one.recurrenceId);
        return recurrenceId ? [{ ...one, recurrenceId }] : [];
      }),
    },
    dropped: ids.filter((id) => !moved.has(id)).sort(),
    renamed: (occurrences) => correspondence(plan, next, occurrences),
  };
}

/**
 * Which occurrences of one series correspond to which of another: one by one while the rhythm is the
 * same, else by date.
 * @param ids recurrence ids of the former
 */
export function correspondence(
  before: { startsAt: WallTime; rule: string },
  after: { startsAt: WallTime; rule: string },
  ids: readonly WallTime[],
): Map<WallTime, WallTime> {
  const found = new Map<WallTime, WallTime>();
  const last = [...ids].sort().at(-1);
  if (!last) return found;
  const [oldRule, newRule] = [parseRule(before.rule), parseRule(after.rule)];
  const shiftDays = Math.abs(Date.parse(`${after.startsAt}Z`) - Date.parse(`${before.startsAt}Z`));
  const reach = wallTimeAt(Date.parse(`${last}Z`) + shiftDays + 40 * 86_400_000, 'UTC');
  const newTimes = wallTimesFrom(newRule, after.startsAt, reach);
  if (sameRhythm(oldRule, newRule)) {
    wallTimesFrom(oldRule, before.startsAt, last).forEach((id, k) => {
      if (newTimes[k]) found.set(id, newTimes[k]);
    });
  } else {
    const byDate = new Map(newTimes.map((wall) => [wall.slice(0, 10), wall]));
    for (const id of ids) {
      const wall = byDate.get(id.slice(0, 10));
      if (wall) found.set(id, wall);
    }
  }
  return new Map(ids.flatMap((id) => (found.has(id) ? [[id, found.get(id)!] as const] : [])));
}

/**
 * Moves a whole series by moving one of its occurrences: as many days, to the new time of day.
 * Weekdays and days of the month that the rule names move along.
 * @param at the occurrence that is moved, by its place in the rule
 * @throws RuleError when the rule names several days that cannot move along
 */
export function moveSeries<Details>(
  plan: SeriesPlan<Details>,
  at: WallTime,
  timing: EventTiming,
): Reshaped<Details> {
  const rule = shiftRule(parseRule(plan.rule), at, timing.startsAt);
  const startsAt = nearestStart(rule, plan.startsAt, at, timing.startsAt);
  return reshapeSeries(plan, { ...timing, startsAt, rule: ruleText(rule) });
}
