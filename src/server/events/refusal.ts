import type { Context } from 'koa';
import type { EventTimes } from '../../contract/events.ts';
import { formatSpan } from '../../core/time/format.ts';
import { sqlState } from '../db/transaction.ts';
import { requirePerson } from '../http/access.ts';
import { Problem } from '../http/problem.ts';
import { NoUnitFree } from '../places/service.ts';
import { explainTaken } from '../places/waysOut.ts';
import type { Platform } from '../platform.ts';
import { readEvent } from './queries.ts';
import { spanOf } from './service.ts';

const EXCLUSION_VIOLATION = '23P01';

const isTaken = (error: unknown): boolean =>
  error instanceof NoUnitFree || sqlState(error) === EXCLUSION_VIOLATION;

interface Wished {
  request: { times?: EventTimes; resources?: number[]; attendees?: unknown[] };
  /** The event that is changed, if it is not a new one. */
  id?: string;
}

/**
 * Turns the database's refusal of a double booking into an answer: what stands in the way, as far
 * as the asker may see it, and the nearest ways out. Nothing of the action was kept.
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
    if (!isTaken(error)) throw error;
    const me = requirePerson(ctx);
    const now = platform.clock.now();
    const present = id ? await readEvent(platform.pool, id, now) : null;
    const span = request.times ? spanOf(request.times) : present!;
    const { taken, waysOut } = await explainTaken(
      platform.pool,
      me,
      {
        resources: request.resources ?? present!.resources.map((resource) => resource.id),
        span,
        people: present ? present.attendees.length : 1 + (request.attendees?.length ?? 0),
        except: id ?? null,
      },
      now,
    );
    const first = taken[0];
    const holder = first?.holder ? ` by ${first.holder}` : '';
    const detail = first
      ? `${first.name} is taken${holder}, ${formatSpan(first, me.zone, me.clock)}. Nothing was booked.`
      : 'The place was taken at the same moment and is free again by now. Nothing was booked; try again.';
    throw new Problem(409, 'resource-taken', detail, {
      fields: [{ field: 'resources', message: 'must be free at that time' }],
      taken,
      waysOut,
    });
  }
}
