import type { MeetingFactDetails } from '../../core/meetings/meetingFacts.ts';
import { organizerHere, type Meeting } from '../../core/meetings/meeting.ts';
import { formatDay, formatTime } from '../../core/time/format.ts';
import type { Transaction } from '../db/transaction.ts';
import { postMails } from '../mail/index.ts';
import { findContacts } from '../people/index.ts';
import type { Platform } from '../platform.ts';
import type { HeldResources } from '../reservations/index.ts';
import { layOutLetter } from './html.ts';
import { letterText, type Letter } from './words.ts';
import { MOST_DATES_TAKEN } from './limits.ts';

/** Tells an organizer on which new dates of their series somebody else has a place that it wants. */
export async function writeTaken(
  tx: Transaction,
  platform: Platform,
  meeting: Meeting,
  dates: MeetingFactDetails['dates-taken']['dates'],
  resources: HeldResources,
): Promise<void> {
  const [organizer] = await findContacts(tx, { ids: [organizerHere(meeting)] });
  if (!organizer) return;
  const { zone, clock } = organizer;
  const shown = dates.slice(0, MOST_DATES_TAKEN);
  const lines = shown.map(
    ([start, , resource]) =>
      `${formatDay(start, zone)} ${formatTime(start, zone, clock)}: ${resources.get(resource)!.name} is taken`,
  );
  if (dates.length > shown.length) lines.push(`and ${dates.length - shown.length} more`);
  const [, first] = dates[0]!;
  const letter: Letter = {
    subject: `Taken: a place for ${dates.length === 1 ? 'a date' : `${dates.length} dates`} of ${meeting.title}`,
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
