import { grouped } from '../../core/grouped.ts';
import { noticeWords } from '../../core/meetings/noticeWords.ts';
import { formatDay, formatSpan } from '../../core/time/format.ts';
import { MINUTE } from '../../core/time/interval.ts';
import type { Notification } from '../../contract/notifications.ts';
import { transaction } from '../db/transaction.ts';
import type { JobDefinition } from '../jobs/index.ts';
import { plainMail, type Letter } from '../letters/index.ts';
import { postMails, type OutgoingMail } from '../mail/index.ts';
import type { Platform } from '../platform.ts';
import { takeDaily, takeSubscribers, type Subscriber } from './queries.ts';
import { LETTERS_A_TRANSACTION, MOST_LINES_A_MEETING, MOST_MEETINGS_A_LETTER } from './limits.ts';

/** Daily letters are written once it is this hour on their reader's clock. */
const HOUR_OF_DAY = 7;

/** Every ten minutes: the daily letters that are due. */
export const dailyLetterJob: JobDefinition = {
  kind: 'daily-letters',
  atOnce: 1,
  timeLimitMs: 5 * MINUTE,
  pausesMinutes: [],
  everyMinutes: 10,
  work: async (platform) => {
    await sendDailyLetters(platform);
  },
};

/**
 * Puts the daily letters that are due into the outbox. That somebody has theirs is kept in the same
 * transaction: whoever goes on after a dead server neither leaves one out nor writes one twice.
 * @returns how many they were
 */
export async function sendDailyLetters(platform: Platform): Promise<number> {
  let sent = 0;
  for (;;) {
    const count = await sendSome(platform);
    sent += count;
    if (count < LETTERS_A_TRANSACTION) return sent;
  }
}

async function sendSome(platform: Platform): Promise<number> {
  return transaction(platform.pool, async (tx) => {
    const now = platform.clock.now();
    const readers = await takeSubscribers(tx, now, HOUR_OF_DAY, LETTERS_A_TRANSACTION);
    if (readers.length === 0) return 0;
    const news = grouped(
      await takeDaily(
        tx,
        readers.map((one) => one.id),
        now,
      ),
      (one) => one.personId,
    );
    const letters = readers.map((one) => letterOf(one, news.get(one.id) ?? [], platform, now));
    postMails(tx, letters, now);
    return readers.length;
  });
}

function letterOf(
  { name, email, zone, clock }: Subscriber,
  news: readonly Omit<Notification, 'isRead'>[],
  { publicUrl }: Platform,
  now: number,
): OutgoingMail {
  const meetings = [...grouped(news, (one) => one.eventId).values()];
  const facts = meetings.slice(0, MOST_MEETINGS_A_LETTER).map((some): [string, string] => {
    const latest = some.at(-1)!;
    const lines = some.slice(-MOST_LINES_A_MEETING).map((one) => {
      const said = one.words && `: “${one.words}”`;
      return `${one.for ? `For ${one.for}: ` : ''}${one.by} ${noticeWords(one)}${said}`;
    });
    return [latest.title, [formatSpan(latest, zone, clock), ...lines].join('\n')];
  });
  const more = meetings.length - facts.length;
  const letter: Letter = {
    subject: `What is new about ${meetings.length === 1 ? 'one meeting' : `${meetings.length} meetings`}, ${formatDay(now, zone)}`,
    title: 'What is new',
    opening: [
      'You asked to hear of this once a day.',
      ...(more > 0 ? [`Of ${more} more you read in Marmot.`] : []),
    ],
    description: '',
    facts,
    link: { href: publicUrl, label: 'Open Marmot' },
  };
  return plainMail(letter, { name, email });
}
