import { formatLength, formatSpan, formatTime } from '../../core/time/format.ts';
import { MINUTE } from '../../core/time/interval.ts';
import { transaction } from '../db/transaction.ts';
import type { JobDefinition } from '../jobs/index.ts';
import { plainMail, type Letter } from '../letters/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import { postMails, type OutgoingMail } from '../mail/index.ts';
import type { Platform } from '../platform.ts';
import {
  insertDue,
  lockRemindedUntil,
  readMailed,
  setRemindedUntil,
  type MailedReminder,
} from './queries.ts';
import { FOUND_AHEAD_MS, FURTHEST_BACK_MS, LETTERS_AT_ONCE, LOOKED_THROUGH_MS } from './limits.ts';

/** Every ten seconds: what comes due until shortly after the next look. */
export const reminderJob: JobDefinition = {
  kind: 'reminders',
  atOnce: 1,
  timeLimitMs: 5 * MINUTE,
  pausesMinutes: [],
  everyMinutes: 1 / 6,
  work: (platform) => remind(platform),
};

/**
 * Finds the reminders that have come due since they were last looked for, tells the browsers of those
 * whom they concern, and puts letters into the outbox. How far it came is kept in the same transaction:
 * whoever goes on after a dead server neither leaves one out nor brings one twice.
 * @returns how many there were
 */
export async function remind(platform: Platform): Promise<number> {
  const until = platform.clock.now() + FOUND_AHEAD_MS;
  let found = 0;
  for (;;) {
    const step = await remindOnce(platform, until);
    found += step.found;
    if (step.reached >= until) break;
  }
  return found;
}

async function remindOnce(
  platform: Platform,
  until: number,
): Promise<{ found: number; reached: number }> {
  return transaction(platform.pool, async (tx) => {
    const last = await lockRemindedUntil(tx);
    const from = Math.max(last ?? until - FOUND_AHEAD_MS, until - FURTHEST_BACK_MS);
    if (from >= until) return { found: 0, reached: until };
    const reached = Math.min(until, from + LOOKED_THROUGH_MS);
    const due = await insertDue(tx, from, reached);
    setRemindedUntil(tx, reached);
    const mailed = due.filter((one) => one.means === 'mail').map((one) => one.id);
    for (let k = 0; k < mailed.length; k += LETTERS_AT_ONCE) {
      const reminders = await readMailed(tx, mailed.slice(k, k + LETTERS_AT_ONCE));
      const now = platform.clock.now();
      postMails(
        tx,
        reminders.map((one) => letterOf(one, platform.publicUrl)),
        now,
      );
    }
    const people = [...new Set(due.map((one) => one.personId))];
    announce(
      tx,
      people.map((id) => subjectOf('reminders', id)),
    );
    return { found: due.length, reached };
  });
}

function letterOf(reminder: MailedReminder, publicUrl: string): OutgoingMail {
  const { zone, clock, name, email, start, end } = reminder;
  const left = formatLength(start - reminder.dueAt);
  const date = reminder.recurrenceId;
  const letter: Letter = {
    subject: `${start > reminder.dueAt ? `In ${left}` : 'Now'}: ${reminder.title}, ${formatTime(start, zone, clock)}`,
    title: reminder.title,
    opening: ['You asked to be reminded of this.'],
    description: '',
    facts: [
      ['When', `${formatSpan({ start, end }, zone, clock)}, ${formatLength(end - start)}`],
      ...(reminder.place ? [['Where', reminder.place] as [string, string]] : []),
    ],
    link: {
      href: `${publicUrl}/events/${reminder.eventId}${date ? `?occurrence=${date}` : ''}`,
      label: 'Open it',
    },
  };
  return plainMail(letter, { name, email });
}
