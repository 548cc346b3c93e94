import type { Fact } from '../../core/meetings/decision.ts';
import { isSeries, occurrenceOf, type Meeting } from '../../core/meetings/meeting.ts';
import { nextOccurrence } from '../../core/meetings/next.ts';
import { Refusal } from '../../core/refusal.ts';
import { DAY } from '../../core/time/interval.ts';
import type { Actor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import { countSentOutside, postMails, type OutgoingMail } from '../mail/index.ts';
import type { Platform } from '../platform.ts';
import type { HeldResources } from '../reservations/index.ts';
import { layOutLetter } from './html.ts';
import { calendarPart, placeText } from './itip.ts';
import { findReaders, type Correspondence } from './recipients.ts';
import { isOccasion, letterText, letterTo, type LetterMatter, type Occasion } from './words.ts';

/** Letters that one organizer may send to addresses outside within 24 hours. */
const MOST_OUTSIDE_A_DAY = 1_000;

type Occurred = Fact & { kind: Occasion };

/**
 * Writes the letters that facts ask for to everyone invited, each in their own zone and clock: two
 * statements, however many they are.
 * @param gone meetings that are no more, though their people are told
 * @returns how many go out
 */
export async function writeLetters(
  tx: Transaction,
  platform: Platform,
  actor: Actor,
  facts: readonly Fact[],
  meetings: ReadonlyMap<string, Meeting>,
  resources: HeldResources,
  gone: ReadonlySet<string>,
): Promise<number> {
  const told = facts.filter(
    (fact): fact is Occurred =>
      fact.tell && isOccasion(fact.kind) && meetings.get(fact.meetingId)!.participants.length > 1,
  );
  if (told.length === 0) return 0;
  const about = told.map((fact) => meetings.get(fact.meetingId)!);
  const readers = await findReaders(tx, about);
  const mails = told.flatMap((fact, k) =>
    lettersAbout(platform, actor, fact, about[k]!, readers.get(fact.meetingId)!, resources),
  );
  const outside = told.flatMap((_, k) =>
    about[k]!.participants.filter((one) => one.personId === null),
  );
  const sender = readers.get(told[0]!.meetingId)!.sender.email;
  await refuseTooMany(tx, sender, outside.length, platform.clock.now());
  const kept = mails.map((mail) =>
    gone.has(mail.eventId!) ? { ...mail, eventId: null, attendeeId: null } : mail,
  );
  postMails(tx, kept, platform.clock.now());
  return mails.length;
}

/** @throws Refusal when somebody would write to more addresses outside than a day allows */
async function refuseTooMany(
  tx: Transaction,
  sender: string,
  outside: number,
  now: number,
): Promise<void> {
  if (outside === 0) return;
  const before = await countSentOutside(tx, sender, now - DAY);
  if (before + outside <= MOST_OUTSIDE_A_DAY) return;
  throw new Refusal(
    'too-many-letters',
    `Within a day ${MOST_OUTSIDE_A_DAY} letters may go to addresses outside; with these it would be ${before + outside}. Nothing was changed.`,
    { fields: [{ field: 'attendees', message: 'must be fewer outside addresses, or later' }] },
  );
}

function lettersAbout(
  platform: Platform,
  actor: Actor,
  fact: Occurred,
  meeting: Meeting,
  { sender, readers }: Correspondence,
  resources: HeldResources,
): OutgoingMail[] {
  const { kind: occasion, message } = fact;
  const occurrence = isSeries(meeting) ? fact.occurrence : null;
  const method = occasion === 'cancelled' ? 'CANCEL' : 'REQUEST';
  const now = platform.clock.now();
  const content = calendarPart({ meeting, occurrence, resources, sender }, method, now, message);
  const shown = occurrenceOf(meeting, occurrence ?? nextOccurrence(meeting, now));
  const isOther = actor.kind === 'person' && actor.me.id !== meeting.organizerId;
  const matter: LetterMatter = {
    meeting,
    shown,
    occurrence,
    occasion,
    sender,
    readers,
    by: isOther ? actor.me.name : null,
    message,
    place: placeText(shown, resources),
    publicUrl: platform.publicUrl,
  };
  return readers.map((reader) => {
    const letter = letterTo(reader, matter);
    const { participant } = reader;
    return {
      eventId: meeting.id,
      attendeeId: participant.id,
      from: sender,
      to: { name: participant.name, email: participant.email },
      subject: letter.subject,
      text: letterText(letter),
      html: layOutLetter(letter),
      calendar: { method, content },
    };
  });
}
