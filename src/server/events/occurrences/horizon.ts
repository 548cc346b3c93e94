import {
  isSeries,
  peopleOf,
  planOf,
  wantedResources,
  type Meeting,
} from '../../../core/meetings/meeting.ts';
import { decideTaken } from '../../../core/meetings/taken.ts';
import { parseRule } from '../../../core/recurrence/rule.ts';
import { happenings } from '../../../core/recurrence/series.ts';
import { DAY } from '../../../core/time/interval.ts';
import { transaction, type Transaction } from '../../db/transaction.ts';
import type { JobDefinition } from '../../jobs/index.ts';
import { announce, subjectOf } from '../../live/index.ts';
import type { Platform } from '../../platform.ts';
import { holdResources } from '../../reservations/index.ts';
import { commit } from '../commit.ts';
import { lockMeeting, type StoredMeeting } from '../store/read.ts';
import { findShortSeries, markExpanded, markWhole } from './horizonQueries.ts';
import { horizonAt, laidOutUntil } from './dates.ts';
import { extendLayout } from './expansion.ts';
import { MOST_SERIES_A_RUN, SLACK_DAYS } from '../limits.ts';

/** Every day: lays series out further. */
export const horizonJob: JobDefinition = {
  kind: 'horizon',
  atOnce: 1,
  timeLimitMs: 30 * 60_000,
  pausesMinutes: [5, 30, 120],
  everyMinutes: 24 * 60,
  work: async (platform, _, signal) => {
    await moveHorizon(platform, { slackDays: SLACK_DAYS, signal });
  },
};

/**
 * Lays series out further, each in a transaction of its own; one that fails is noted and holds up no
 * other. A resource that somebody else took for a new date is left out of that date, and the
 * organizer is told.
 * @returns how many series were laid out further, and how many failed
 */
export async function moveHorizon(
  platform: Platform,
  { slackDays = 0, signal }: { slackDays?: number; signal?: AbortSignal } = {},
): Promise<{ moved: number; failed: number }> {
  const now = platform.clock.now();
  const slack = slackDays * DAY;
  const ids = await findShortSeries(platform.pool, horizonAt(now) - slack, MOST_SERIES_A_RUN);
  const result = { moved: 0, failed: 0 };
  for (const id of ids) {
    if (signal?.aborted) break;
    try {
      await transaction(platform.pool, (tx) => extend(tx, platform, id, slack));
      result.moved++;
    } catch (error) {
      result.failed++;
      platform.log.error({ error, eventId: id }, 'a series could not be laid out further');
    }
  }
  return result;
}

async function extend(
  tx: Transaction,
  platform: Platform,
  id: string,
  slack: number,
): Promise<void> {
  const now = platform.clock.now();
  const meeting = await lockMeeting(tx, id);
  // Another server may have come first.
  if (!meeting || !isSeries(meeting) || meeting.status === 'cancelled') return;
  // One with many people is laid out less far than others, and is not behind.
  const until = laidOutUntil(meeting, null, now)!;
  if (meeting.expandedUntil !== null && meeting.expandedUntil >= until - slack) return;
  const held = await holdResources(tx, wantedResources(meeting));
  const since = meeting.expandedUntil;
  const { added, taken } = await extendLayout(tx, meeting, held, { since, until, now });
  if (taken.length > 0) {
    const lost = taken.map((one) => ({ ...one, recurrenceId: one.recurrenceId! }));
    const decision = decideTaken(meeting, lost, (placeId) => held.get(placeId)!.name);
    const expandedUntil = new Map([[id, until]]);
    await commit(tx, platform, { kind: 'system' }, decision, { held, expandedUntil });
  } else {
    markExpanded(tx, id, until);
    if (added > 0) announce(tx, subjectsOf(meeting));
  }
  if (isOver(meeting, until)) markWhole(tx, id);
}

/** No series has dates after it. */
const LAST = Date.UTC(2200, 0, 1);

/** Whether a series ends before an instant. */
function isOver(meeting: Meeting & { rule: string }, until: number): boolean {
  const { count, until: last } = parseRule(meeting.rule);
  if (count === null && last === null) return false;
  return happenings(planOf(meeting), { start: until, end: LAST }).length === 0;
}

const subjectsOf = (meeting: StoredMeeting) => [
  subjectOf('meeting', meeting.id),
  ...peopleOf(meeting).map((id) => subjectOf('calendar', id)),
  ...wantedResources(meeting).map((id) => subjectOf('resource', id)),
];
