import type { Context } from 'koa';
import type { TakenDate } from '../../contract/events.ts';
import type { Me } from '../../contract/session.ts';
import { formatDay, formatSpan } from '../../core/time/format.ts';
import { sqlState } from '../db/transaction.ts';
import { requirePerson } from '../http/access.ts';
import { Problem } from '../http/problem.ts';
import { ResourcesTaken } from '../places/service.ts';
import { explainTaken } from '../places/waysOut.ts';
import type { Platform } from '../platform.ts';
import { readEvent } from './queries.ts';

const EXCLUSION_VIOLATION = '23P01';
/** For more dates than this nobody decides one by one. */
const MOST_DATES = 60;
const MOST_NAMED = 6;

interface Wished {
  request: { attendees?: unknown[] };
  /** The event that is changed, if it is not a new one. */
  id?: string;
}

/**
 * Turns the refusal of a double booking into an answer: what stands in the way, as far as the asker
 * may see it, and the nearest ways out, for each date of a series. Nothing of the action was kept.
 * @throws Problem 409 `resource-taken`
 */
export async function refuseTaken(
  ctx: Context,
  platform: Platform,
  { request, id }: Wished,
  action: () => Promise<void>,
): Promise<void> {
  try {
    await action();
  } catch (error) {
    if (sqlState(error) === EXCLUSION_VIOLATION) throw takenMeanwhile();
    if (!(error instanceof ResourcesTaken)) throw error;
    const me = requirePerson(ctx);
    const present = id ? await readEvent(platform.pool, id, platform.clock.now()) : null;
    const people = present ? present.attendees.length : 1 + (request.attendees?.length ?? 0);
    const dates = await explainDates(platform, me, error, people, id ?? null);
    const [first] = dates;
    if (!first?.taken[0]) throw takenMeanwhile();
    throw new Problem(409, 'resource-taken', sentence(dates, error, me), {
      fields: [{ field: 'resources', message: 'must be free at that time' }],
      taken: first.taken,
      waysOut: first.waysOut,
      ...(first.at && { dates, furtherDates: datesOf(error).length - dates.length }),
    });
  }
}

const takenMeanwhile = () =>
  new Problem(
    409,
    'resource-taken',
    'The place was taken at the same moment and is free again by now. Nothing was booked; try again.',
    {
      fields: [{ field: 'resources', message: 'must be free at that time' }],
      taken: [],
      waysOut: [],
    },
  );

const datesOf = ({ wishes }: ResourcesTaken) => [...new Set(wishes.map((wish) => wish.start))];

async function explainDates(
  platform: Platform,
  me: Me,
  { wishes }: ResourcesTaken,
  people: number,
  except: string | null,
): Promise<TakenDate[]> {
  const dates: TakenDate[] = [];
  const starts = [...new Set(wishes.map((wish) => wish.start))].slice(0, MOST_DATES);
  for (const start of starts) {
    const missed = wishes.filter((wish) => wish.start === start);
    const { end, recurrenceId } = missed[0]!;
    const explained = await explainTaken(
      platform.pool,
      me,
      { resources: missed.map((one) => one.resourceId), span: { start, end }, people, except },
      platform.clock.now(),
    );
    dates.push({ at: recurrenceId ?? '', start, end, ...explained });
  }
  return dates;
}

function sentence(dates: readonly TakenDate[], error: ResourcesTaken, me: Me): string {
  const first = dates[0]!;
  const taken = first.taken[0]!;
  const count = datesOf(error).length;
  if (count === 1) {
    const holder = taken.holder ? ` by ${taken.holder}` : '';
    return `${taken.name} is taken${holder}, ${formatSpan(taken, me.zone, me.clock)}. Nothing was booked.`;
  }
  const days = dates.slice(0, MOST_NAMED).map((date) => formatDay(date.start, me.zone));
  const more = count > MOST_NAMED ? ` and ${count - MOST_NAMED} more` : '';
  return `${taken.name} is taken on ${count} dates: ${days.join(', ')}${more}. Nothing was booked.`;
}
