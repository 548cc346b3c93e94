import { addressKey } from '../../core/mailAddress.ts';
import type { ItipMethod } from '../../core/icalendar/message.ts';
import type { MeetingChange } from '../../core/meetings/decision.ts';
import { factDetail, type MeetingFact } from '../../core/meetings/meetingFacts.ts';
import {
  isSeries,
  listedFor,
  occurrenceOf,
  peopleOf,
  type Meeting,
  type Participant,
} from '../../core/meetings/meeting.ts';
import { nextOccurrence } from '../../core/meetings/next.ts';
import { addressees, noticeKindOf } from '../../core/meetings/notices.ts';
import { Refusal } from '../../core/refusal.ts';
import { DAY, type Interval } from '../../core/time/interval.ts';
import type { WallTime } from '../../core/time/wall.ts';
import type { Actor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import {
  countSentOutside,
  postMails,
  withdrawLetters,
  type OutgoingMail,
  type Withdrawal,
} from '../mail/index.ts';
import { guestKey, guestToken } from '../participants/index.ts';
import { foreseeContacts } from '../people/index.ts';
import type { Platform } from '../platform.ts';
import type { HeldResources } from '../reservations/index.ts';
import { replyToExternalOrganizer } from './abroad.ts';
import { layOutLetter } from './html.ts';
import { concernsHolder, lettersOfBookings } from './bookings.ts';
import { calendarPart, placeText } from './itip.ts';
import { findReaders, type Correspondence } from './recipients.ts';
import { differences } from './differences.ts';
import { foreseeHeld, isTiding, rewriteHeld, type Instead } from './held.ts';
import { keepBefore } from './heldQueries.ts';
import { writeTaken } from './taken.ts';
import { isOccasion, letterText, letterTo, type LetterMatter, type Occasion } from './words.ts';
import type { Happened, FactConsumer } from '../facts/index.ts';
import { MOST_OUTSIDE_A_DAY } from './limits.ts';

type Occurred = MeetingFact & { kind: Occasion };

/** A fact, the meeting it is about, as it was and as it is, and whom it is told. */
interface ToldFact {
  fact: Occurred;
  meeting: Meeting;
  before: Meeting | null;
  /** As its people last heard of it; null where it was made just now, out of another. */
  known: Meeting | null;
  to: Participant[];
  /** Since when something is held for them, epoch milliseconds; not where nothing was. */
  since?: number;
}

/**
 * Begins to read who is written to of what was decided, so that it is known once the letters are written: by
 * then others wait for what is held.
 */
function foreseeReaders(
  tx: Transaction,
  decided: { facts: readonly MeetingFact[]; changes: readonly MeetingChange[] },
  { holdSeconds }: Platform,
): void {
  if (holdSeconds > 0) foreseeHeld(tx, decided);
  const { facts, changes } = decided;
  const meetings = new Map(
    changes.flatMap(({ before, after }) => {
      const meeting = after ?? before;
      return meeting ? [[meeting.id, meeting]] : [];
    }),
  );
  const ids = facts.flatMap((fact) => {
    const meeting = meetings.get(fact.meetingId);
    if (!meeting || meeting.organizerId === null) return [];
    if (fact.tell && isOccasion(fact.kind) && meeting.participants.length > 1)
      return [meeting.organizerId, ...peopleOf(meeting)];
    return concernsHolder(fact, facts, meetings) ? [meeting.organizerId] : [];
  });
  foreseeContacts(tx, [...new Set(ids)]);
}

/**
 * Writes the letters that facts ask for to everyone invited, each in their own zone and clock: two
 * statements, however many they are.
 */
async function writeLetters(
  tx: Transaction,
  platform: Platform,
  actor: Actor,
  happened: Happened<MeetingFact>,
): Promise<void> {
  const { facts, meetings, resources, gone, changes } = happened;
  const held =
    platform.holdSeconds === 0
      ? { letters: [], rewritten: new Map<string, Set<string>>() }
      : await rewriteHeld(tx, happened);
  const spared = await takeBack(
    tx,
    platform,
    facts,
    (id) => gone.has(id) || meetings.get(id)?.status === 'cancelled',
  );
  for (const fact of facts) {
    if (fact.kind !== 'dates-taken') continue;
    const meeting = meetings.get(fact.meetingId)!;
    await writeTaken(tx, platform, meeting, fact.details.dates, resources);
  }
  const told = facts
    .filter((fact): fact is Occurred => fact.tell && isOccasion(fact.kind))
    .map((fact): ToldFact => {
      const meeting = meetings.get(fact.meetingId)!;
      const before = changes.find((one) => one.before?.id === meeting.id)?.before ?? null;
      const isNew = changes.some((one) => one.before === null && one.after?.id === meeting.id);
      const isWritten = (email: string) =>
        spared.get(meeting.id)?.has(email) ||
        (isTiding(fact.kind) && held.rewritten.get(meeting.id)?.has(email));
      const to = addressees(meeting, fact).filter(({ email }) => !isWritten(addressKey(email)));
      return { fact, meeting, before, known: isNew ? null : before, to };
    })
    .concat(together(held.letters))
    // Whoever is invited from elsewhere has heard of it from there.
    .filter(({ to, meeting }) => to.length > 0 && meeting.organizerId !== null);
  const [ofBookings] = await Promise.all([
    lettersOfBookings(tx, platform, actor, facts, meetings, resources, spared),
    replyToExternalOrganizer(tx, platform, actor, facts, meetings),
  ]);
  if (told.length === 0) {
    if (ofBookings.length > 0)
      postMails(tx, ofBookings, platform.clock.now(), platform.holdSeconds);
    return;
  }
  const correspondence = await findReaders(tx, told);
  const hasGuests = correspondence.some(({ readers }) => readers.some((one) => !one.hasAccount));
  const key = hasGuests ? await guestKey(tx) : null;
  const mails = told.flatMap((one, k) =>
    lettersAbout(platform, actor, one, correspondence[k]!, resources, key),
  );
  const outside = new Map<string, number>();
  for (const [k, { to }] of told.entries()) {
    const { email } = correspondence[k]!.sender;
    const count = to.filter((one) => one.personId === null).length;
    if (count > 0) outside.set(email, (outside.get(email) ?? 0) + count);
  }
  await refuseTooMany(tx, outside, platform.clock.now());
  const kept = [...mails, ...ofBookings].map((mail) =>
    gone.has(mail.eventId!) ? { ...mail, eventId: null, attendeeId: null } : mail,
  );
  if (platform.holdSeconds > 0)
    keepBefore(
      tx,
      told.flatMap(({ fact, known }) => (known && isTiding(fact.kind) ? [known] : [])),
      platform.clock.now(),
    );
  postMails(tx, kept, platform.clock.now(), platform.holdSeconds);
}

/** Letters that say the same to several people, together. */
function together(letters: readonly Instead[]): ToldFact[] {
  const groups = new Map<string, ToldFact>();
  for (const { kind, occurrence, message, meeting, before, to, since } of letters) {
    const key = JSON.stringify([
      kind,
      occurrence,
      message,
      meeting.id,
      before?.version ?? null,
      since,
    ]);
    const group = groups.get(key);
    if (group) group.to.push(to);
    else
      groups.set(key, {
        fact: { kind, meetingId: meeting.id, occurrence, tell: true, message },
        meeting,
        before,
        known: before,
        to: [to],
        since,
      });
  }
  return [...groups.values()];
}

/** Letters to those who take part in a meeting, to its organizer elsewhere, and to whoever has its places. */
export const letterConsumer: FactConsumer<MeetingFact> = {
  name: 'letters',
  kinds: [
    'drafted',
    'invited',
    'uninvited',
    'changed',
    'moved',
    'cancelled',
    'restored',
    'nudged',
    'resent',
    'replied',
    'proposed',
    'proposal-declined',
    'place-asked',
    'place-agreed',
    'place-refused',
    'place-expired',
    'place-moved',
    'place-closed',
    'dates-taken',
    'no-show',
    'no-show-soon',
  ],
  foresee: foreseeReaders,
  take: writeLetters,
};

/**
 * Takes back letters that are still held and told of what is undone or over now: all that tell of an
 * undone version, all about a meeting that is cancelled as a whole, and those to whoever is asked no
 * more.
 * @returns who needs no further letter about a meeting, by their addresses: the one that told them of
 *   what is undone never left, or they never heard of what is over
 */
async function takeBack(
  tx: Transaction,
  { holdSeconds }: Platform,
  facts: readonly MeetingFact[],
  isOver: (meetingId: string) => boolean,
): Promise<Map<string, Set<string>>> {
  const spared = new Map<string, Set<string>>();
  if (holdSeconds === 0) return spared;
  const undoneOf = (fact: MeetingFact) => factDetail(fact, 'undone');
  const isWhole = ({ kind, meetingId }: MeetingFact) => kind === 'cancelled' && isOver(meetingId);
  const undone = facts.flatMap((fact): Withdrawal[] => {
    const version = undoneOf(fact);
    return version === undefined ? [] : [{ eventId: fact.meetingId, version }];
  });
  const over = facts.flatMap((fact): Withdrawal[] => {
    const { meetingId: eventId, people = [] } = fact;
    if (isWhole(fact)) return [{ eventId }];
    return fact.kind === 'uninvited' ? [{ eventId, emails: people.map((one) => one.email) }] : [];
  });
  // Whoever is told of what is undone heard nothing of it; of what is over, only whoever never heard of it.
  const silent = [
    ...(await withdrawLetters(tx, undone)),
    ...(await withdrawLetters(tx, over)).filter((one) => one.isFirst),
  ];
  for (const { eventId, email } of silent) {
    const there = spared.get(eventId);
    if (there) there.add(email);
    else spared.set(eventId, new Set([email]));
  }
  return spared;
}

/**
 * @param outside how many letters to addresses outside each sender would write
 * @throws Refusal when one of them would write more than a day allows
 */
async function refuseTooMany(
  tx: Transaction,
  outside: ReadonlyMap<string, number>,
  now: number,
): Promise<void> {
  if (outside.size === 0) return;
  const before = await countSentOutside(tx, [...outside.keys()], now - DAY);
  for (const [sender, count] of outside) {
    const total = (before.get(sender) ?? 0) + count;
    if (total <= MOST_OUTSIDE_A_DAY) continue;
    throw new Refusal(
      'too-many-letters',
      `Within a day ${MOST_OUTSIDE_A_DAY} letters of ${sender} may go to addresses outside; with these it would be ${total}. Nothing was changed.`,
      { fields: [{ field: 'attendees', message: 'must be fewer outside addresses, or later' }] },
    );
  }
}

const askedTimes = (fact: MeetingFact): Interval[] =>
  (factDetail(fact, 'times') ?? []).map(([start, end]) => ({ start, end }));

/** What each occasion is in iTIP (RFC 5546 section 1.4). */
const METHOD: Record<Occasion, ItipMethod> = {
  invited: 'REQUEST',
  uninvited: 'CANCEL',
  changed: 'REQUEST',
  moved: 'REQUEST',
  cancelled: 'CANCEL',
  restored: 'REQUEST',
  nudged: 'REQUEST',
  resent: 'REQUEST',
  'proposal-declined': 'DECLINECOUNTER',
};

/** Whether a date of a series does not happen. */
const isOff = ({ overrides }: Meeting, at: WallTime): boolean =>
  overrides.some((one) => one.recurrenceId === at && one.cancelled);

function lettersAbout(
  platform: Platform,
  actor: Actor,
  { fact, meeting, before, known, to, since }: ToldFact,
  { sender, readers }: Correspondence,
  resources: HeldResources,
  key: string | null,
): OutgoingMail[] {
  const { kind: occasion, message } = fact;
  const occurrence = isSeries(meeting) ? fact.occurrence : null;
  const now = platform.clock.now();
  // Whoever is asked no more is told of themselves alone (RFC 5546 section 3.2.5).
  const listed =
    occasion === 'uninvited'
      ? [...meeting.participants.filter((one) => one.role === 'organizer'), ...to]
      : meeting.participants;
  // A letter about all has left it out since (EXDATE): a date that comes back is told with all of them.
  const isBack = occurrence !== null && before !== null && isOff(before, occurrence);
  const written = new Map<number, string>();
  /** The calendar part, written once for each number of people that it lists. */
  const partFor = (participant: Participant): string => {
    const participants = listedFor({ ...meeting, participants: listed }, participant);
    const key = participants.length === listed.length ? 0 : participant.id;
    const known = written.get(key);
    if (known !== undefined) return known;
    const matterOf = {
      meeting: { ...meeting, participants },
      occurrence: isBack ? null : occurrence,
      resources,
      sender: { ...sender, sentBy: other?.email },
    };
    const content = calendarPart(matterOf, METHOD[occasion], now, message);
    written.set(key, content);
    return content;
  };
  const shown = occurrenceOf(meeting, occurrence ?? nextOccurrence(meeting, now));
  // Whoever does it, where that is not the organizer.
  const other =
    actor.kind !== 'person'
      ? null
      : (actor.by ?? (actor.me.id === meeting.organizerId ? null : actor.me));
  const matter: LetterMatter = {
    meeting,
    shown,
    occurrence,
    occasion,
    sender,
    readers,
    by: other?.name ?? null,
    message,
    askedFor: occasion === 'proposal-declined' ? askedTimes(fact) : [],
    changed:
      before && (occasion === 'changed' || occasion === 'moved')
        ? differences(before, meeting, occurrence)
        : null,
    place: placeText(shown, resources),
    publicUrl: platform.publicUrl,
    guestPath: ({ participant: { id }, hasAccount }) =>
      !hasAccount && id !== 0 && key !== null ? `/guest/${guestToken(key, id)}` : null,
  };
  const kind = noticeKindOf(occasion);
  // Whoever wants to hear of it once a day, or not at all, has no letter of it now.
  const heard = readers.filter(({ hearing }) => !kind || (hearing[kind] ?? 'now') === 'now');
  return heard.map((reader) => {
    const letter = letterTo(reader, matter);
    const { participant } = reader;
    return {
      eventId: meeting.id,
      attendeeId: participant.id || null,
      from: sender,
      to: { name: participant.name, email: participant.email },
      subject: letter.subject,
      text: letterText(letter),
      html: layOutLetter(letter),
      calendar: { method: METHOD[occasion], content: partFor(participant) },
      tells: { occasion, version: meeting.version },
      ...(isTiding(occasion) &&
        platform.holdSeconds > 0 && {
          held: {
            eventId: meeting.id,
            beforeVersion: known?.version ?? null,
            said: message,
            since: since ?? now,
          },
        }),
    };
  });
}
