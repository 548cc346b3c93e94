import { organizerHere, type Meeting } from '../../core/meetings/meeting.ts';
import { formatDay, formatTime } from '../../core/time/format.ts';
import type { Transaction } from '../db/transaction.ts';
import { postMails } from '../mail/index.ts';
import { findContacts } from '../people/index.ts';
import type { Platform } from '../platform.ts';
import type { HeldResources, Wish } from '../reservations/index.ts';
import { layOutLetter } from './html.ts';
import { letterText, type Letter } from './words.ts';

/** Tells an organizer on which new dates of their series somebody else has a place that it wants. */
export async function writeTaken(
  tx: Transaction,
  platform: Platform,
  meeting: Meeting,
  taken: readonly Wish[],
  resources: HeldResources,
): Promise<void> {
  const [organizer] = await findContacts(tx, { ids: [organizerHere(meeting)] });
  if (!organizer) return;
  const { zone, clock } = organizer;
  const lines = taken.map(
    ({ start, resourceId }) =>
      `${formatDay(start, zone)} ${formatTime(start, zone, clock)}: ${resources.get(resourceId)!.name} is taken`,
  );
  const first = taken[0]!.recurrenceId!;
  const letter: Letter = {
    subject: `Taken: a place for ${taken.length === 1 ? 'a date' : `${taken.length} dates`} of ${meeting.title}`,
    title: meeting.title,
    opening: [
      'The coming dates of this series were added to the calendar. On these, somebody else has a place that the series wants; those dates stand without it:',
      lines.join('\n'),
    ],
    description: '',
    facts: [],
    link: {
      href: `${platform.publicUrl}/calendar?event=${meeting.id}&on=${first}&date=${first.slice(0, 10)}`,
      label: 'Choose another place or time',
    },
  };
  postMails(
    tx,
    [
      {
        eventId: meeting.id,
        attendeeId: null,
        from: { name: 'Marmot', email: `marmot@${organizer.email.split('@')[1]}` },
        to: organizer,
        subject: letter.subject,
        text: letterText(letter),
        html: layOutLetter(letter),
        calendar: null,
      },
    ],
    platform.clock.now(),
  );
}
