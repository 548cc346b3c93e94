import { formatDay, formatTime } from '../../core/time/format.ts';
import { DAY } from '../../core/time/interval.ts';
import { transaction, type Transaction } from '../db/transaction.ts';
import { announce } from '../live/hub.ts';
import { escapeHtml, letterHtml } from '../mail/html.ts';
import { postMail } from '../mail/service.ts';
import type { Platform } from '../platform.ts';
import type { WantedResource } from './claimQueries.ts';
import { findShortSeries, forgetOld } from './horizonQueries.ts';
import { extend, horizonAt } from './layOut.ts';
import { isSeries, peopleOf, planOf, type EventRecord } from './model.ts';
import { overrideAt } from './choices.ts';
import { replaceOverrides } from './overrideQueries.ts';
import { insertLog, lockEvent, readEvent } from './queries.ts';

/** Cancelled things can be restored, and changes undone, for this long. */
export const KEPT_DAYS = 30;

/**
 * Moves the horizon of all series on, each in a transaction of its own, and forgets what can no
 * longer be undone. A resource that somebody else took for a new date is left out of that date, and
 * the organizer is told.
 * @returns how many series were moved on
 */
export async function moveHorizon(platform: Platform): Promise<number> {
  const now = platform.clock.now();
  const until = horizonAt(now);
  const ids = await findShortSeries(platform.pool, until);
  for (const id of ids) {
    await transaction(platform.pool, (tx) => extendOne(tx, platform, id, until));
  }
  await transaction(platform.pool, (tx) => forgetOld(tx, now - KEPT_DAYS * DAY));
  return ids.length;
}

async function extendOne(tx: Transaction, platform: Platform, id: string, until: number) {
  const now = platform.clock.now();
  await lockEvent(tx, id);
  const event = await readEvent(tx, id, now);
  // Another server process may have come first.
  if (!event || !isSeries(event) || event.status === 'cancelled') return;
  if (event.keptUntil !== null && event.keptUntil >= until) return;
  const taken = await extend(tx, event, until);
  if (taken.length > 0) {
    await leaveOut(tx, event, taken);
    await tellOrganizer(tx, platform, event, taken);
  }
  await announce(tx, ['calendar'], peopleOf(event));
}

/** Keeps what a date could not get as that date's own list, so that it is seen and can be changed. */
async function leaveOut(
  tx: Transaction,
  event: EventRecord & { rule: string },
  taken: readonly WantedResource[],
): Promise<void> {
  const plan = planOf(event);
  const dates = new Set(taken.map((one) => one.recurrenceId!));
  const changed = [...dates].map((at) => {
    const override = overrideAt(plan, at);
    const wanted = override.details.resources ?? event.resources.map((one) => one.id);
    const missed = taken.filter((one) => one.recurrenceId === at).map((one) => one.resourceId);
    const resources = wanted.filter((id) => !missed.includes(id));
    return { ...override, details: { ...override.details, resources } };
  });
  const others = plan.overrides.filter((one) => !dates.has(one.recurrenceId));
  await replaceOverrides(tx, event.id, [...others, ...changed]);
}

async function tellOrganizer(
  tx: Transaction,
  platform: Platform,
  event: EventRecord,
  taken: readonly WantedResource[],
): Promise<void> {
  const { organizer } = event;
  const nameOf = new Map(
    [...event.resources, ...event.furtherResources].map((one) => [one.id, one.name]),
  );
  const lines = taken.map(
    (one) =>
      `${formatDay(one.start, organizer.zone)} ${formatTime(one.start, organizer.zone)}: ${nameOf.get(one.resourceId)} is taken`,
  );
  const intro =
    'The coming dates of this series were added to the calendar. On these, somebody else has a place that the series wants; those dates stand without it:';
  const link = `${platform.publicUrl}/calendar?event=${event.id}&on=${taken[0]!.recurrenceId}&date=${taken[0]!.recurrenceId!.slice(0, 10)}`;
  await postMail(tx, platform, {
    eventId: event.id,
    from: { name: 'Marmot', email: `marmot@${organizer.email.split('@')[1]}` },
    to: organizer,
    subject: `Taken: a place for ${taken.length === 1 ? 'a date' : `${taken.length} dates`} of ${event.title}`,
    text: [event.title, intro, lines.join('\n'), `Choose another place or time: ${link}`].join(
      '\n\n',
    ),
    html: letterHtml({
      title: event.title,
      paragraphs: [escapeHtml(intro), lines.map(escapeHtml).join('<br>')],
      facts: [],
      link: { href: link, label: 'Choose another place or time' },
    }),
    calendar: null,
  });
  await insertLog(tx, {
    at: platform.clock.now(),
    actorId: null,
    action: 'event.horizon-taken',
    eventId: event.id,
    details: { taken },
  });
}
