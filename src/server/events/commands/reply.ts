import {
  answererOf,
  type AnsweredBy,
  type AnswerMessage,
  type CounterMessage,
  type ReplyMessage,
} from '../../../core/icalendar/parse.ts';
import type { CalendarPart } from '../../../core/icalendar/part.ts';
import { namedIn } from '../../../core/icalendar/times.ts';
import { nextOccurrence } from '../../../core/meetings/next.ts';
import { decidePropose, type ProposeCommand } from '../../../core/meetings/propose.ts';
import { decideResend } from '../../../core/meetings/resend.ts';
import type { Invited } from '../../../core/meetings/create.ts';
import { decideInviteAlso } from '../../../core/meetings/invite.ts';
import type { MeetingFact } from '../../../core/meetings/meetingFacts.ts';
import { addressKey, isMailAddress } from '../../../core/mailAddress.ts';
import { decideReply, notInvited, type ReplyCommand } from '../../../core/meetings/reply.ts';
import type { Decision } from '../../../core/meetings/decision.ts';
import { isSeries, type Meeting } from '../../../core/meetings/meeting.ts';
import { Refusal } from '../../../core/refusal.ts';
import { resolveWallTime, type WallTime } from '../../../core/time/wall.ts';
import type { PersonActor } from '../../actions/index.ts';
import type { Database, Transaction } from '../../db/transaction.ts';
import { findByAddresses, lookUpInvited } from '../../participants/index.ts';
import type { Platform } from '../../platform.ts';
import { lockVisibleMeeting } from '../read/visible.ts';
import { findByUid, lockMeeting, type StoredMeeting } from '../store/read.ts';
import { believeSender, isBelievedSender } from '../store/senders.ts';
import { carryOut, type Done } from './carryOut.ts';
import { refuseTooOften } from './resend.ts';

/**
 * Keeps the actor's answer, and claims or frees time accordingly.
 * @throws Refusal when they are not invited or organize it themselves, or when it is cancelled
 */
export async function replyTo(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  eventId: string,
  answer: {
    reply: ReplyCommand['reply'];
    note: string;
    occurrence?: WallTime | undefined;
    tell?: boolean | undefined;
  },
): Promise<Done> {
  const meeting = await lockVisibleMeeting(tx, actor, eventId);
  const participant = meeting.participants.find((one) => one.personId === actor.me.id);
  if (!participant) throw notInvited();
  const now = platform.clock.now();
  const command: ReplyCommand = {
    reply: answer.reply,
    note: answer.note,
    occurrence: answer.occurrence ?? null,
    stamp: now,
    sequence: null,
    quietly: answer.tell === false,
  };
  const decision = decideReply(meeting, participant.id, command, now);
  return carryOut(tx, platform, actor, meeting, decision);
}

/**
 * Does what is decided about a meeting by somebody who has no account, such as answering by a link.
 * @throws Refusal when there is no such meeting
 */
export async function answerAs(
  tx: Transaction,
  platform: Platform,
  id: string,
  decide: (meeting: Meeting) => Decision,
): Promise<void> {
  const meeting = await lockMeeting(tx, id);
  if (!meeting) throw notInvited();
  await carryOut(tx, platform, { kind: 'system' }, meeting, decide(meeting));
}

/** By which road an answer came, and what that says of whom it is from. */
export type AnswerSender =
  /** To the address of somebody's own letter, which only they know. */
  | { how: 'letter'; attendeeId: number; from: string }
  /** To somebody's own address, as RFC 5546 knows it. */
  | { how: 'own'; personId: number; from: string; checked: Checked }
  /** It is counted by hand, by somebody who vouches for it. */
  | { how: 'hand'; from: string };

/** What the server that receives mail found of a sender. */
export type Checked =
  | { by: null }
  /** `found` says by what it found the sender to be true; null where it did not. */
  | { by: string; found: string | null };

/** An answer that was counted. */
export interface ReceivedAnswer {
  eventId: string;
  attendeeId: number;
  /** Why it was believed, in a sentence. */
  why: string;
  /** Whom they send in their place, and who has yet to be asked; null where nobody, or they are asked. */
  sends: string | null;
}

/**
 * Counts what somebody invited sent back by mail: a REPLY (RFC 5546 section 3.2.3), each answer in it,
 * all or none, a COUNTER (section 3.2.7), which asks for another time, or a REFRESH (section 3.2.6),
 * which is answered with the invitation once more. Whom somebody sends in their place is asked at once where
 * those who are invited may ask others.
 * @param calendar the text/calendar part, as it was read
 * @throws Refusal saying why it cannot be counted
 */
export async function receiveAnswer(
  tx: Transaction,
  platform: Platform,
  calendar: CalendarPart,
  sender: AnswerSender,
): Promise<ReceivedAnswer> {
  const message = answerIn(calendar);
  const byUid = new Map<string, ReplyMessage[]>();
  for (const part of partsOf(message)) byUid.set(part.uid, [...(byUid.get(part.uid) ?? []), part]);
  const ids = await findByUid(tx, [...byUid.keys()]);
  let received: ReceivedAnswer | null = null;
  for (const [uid, parts] of byUid) {
    const id = ids.get(uid);
    const meeting = id === undefined ? null : await lockMeeting(tx, id);
    if (!meeting)
      throw new Refusal('unknown-meeting', 'The answer is for a meeting not known here.');
    received = await countAnswers(tx, platform, { message, parts, meeting, sender });
  }
  return received!;
}

async function countAnswers(
  tx: Transaction,
  platform: Platform,
  {
    message,
    parts,
    meeting: before,
    sender,
  }: {
    message: AnswerMessage;
    parts: readonly ReplyMessage[];
    meeting: StoredMeeting;
    sender: AnswerSender;
  },
): Promise<ReceivedAnswer> {
  const now = platform.clock.now();
  const attendees = await findByAddresses(tx, before.id, [
    ...new Set(parts.flatMap(({ by }) => by.map((one) => one.email))),
  ]);
  let meeting: StoredMeeting = before;
  let found: { id: number; answerer: AnsweredBy } | null = null;
  const facts: MeetingFact[] = [];
  for (const part of parts) {
    const answerer = answererOf(part, sendersOf(part, sender, attendees));
    if (!answerer)
      throw new Refusal('whose', 'It names several people, and does not say who of them answers.');
    const id = attendees.get(addressKey(answerer.email));
    if (id === undefined)
      throw new Refusal('not-invited', `${answerer.email} is not among those who are invited.`);
    if (sender.how === 'letter' && sender.attendeeId !== id)
      throw new Refusal(
        'not-theirs',
        `It answers for ${answerer.email}, whose letter this was not.`,
      );
    found = { id, answerer };
    const decision =
      message.method === 'REPLY'
        ? decideReply(meeting, id, commandOf(part, answerer, meeting, now), now)
        : message.method === 'COUNTER'
          ? decidePropose(meeting, id, timesOf(message.counter, answerer, meeting, now), now)
          : decideResend(meeting, { ids: [id], message: '' });
    meeting = { ...meeting, ...decision.changes[0]?.after };
    facts.push(...decision.facts);
  }
  const { id, answerer } = found!;
  const why = await believe(tx, before, answerer, sender, now);
  if (message.method === 'REFRESH') await refuseTooOften(tx, before.id, now);
  const sends = await inPlaceOf(tx, meeting, answerer);
  const asked = sends && before.rights.invite ? decideInviteAlso(meeting, sends, now) : null;
  await carryOut(tx, platform, { kind: 'system' }, before, {
    changes: [{ before, after: asked?.changes[0]?.after ?? meeting }],
    facts: [...facts, ...(asked?.facts ?? [])],
    notes: [],
    answer: { id: before.id, occurrence: null },
    undo: null,
  });
  return {
    eventId: before.id,
    attendeeId: id,
    why,
    sends: sends && !asked ? sends.invited[0]!.email : null,
  };
}

/** The addresses from which an answer may be, the likeliest first. */
function sendersOf(
  { by }: ReplyMessage,
  sender: AnswerSender,
  attendees: ReadonlyMap<string, number>,
): string[] {
  if (sender.how !== 'letter') return [sender.from];
  return by
    .filter((one) => attendees.get(addressKey(one.email)) === sender.attendeeId)
    .map((one) => one.email);
}

/** Whom somebody sends in their place, as one more who is asked; null where nobody, or one who is asked already. */
async function inPlaceOf(
  tx: Transaction,
  meeting: Meeting,
  { email, sends }: AnsweredBy,
): Promise<{ invited: Invited[]; message: string } | null> {
  if (sends === null || !isMailAddress(sends) || meeting.organizerId === null) return null;
  if (meeting.participants.some((one) => addressKey(one.email) === addressKey(sends))) return null;
  const delegator = meeting.participants.find((one) => addressKey(one.email) === addressKey(email));
  const host = meeting.participants.find((one) => one.role === 'organizer')!;
  const invited = await lookUpInvited(tx, { id: meeting.organizerId, email: host.email }, [
    { email: sends, name: '', role: delegator?.role === 'optional' ? 'optional' : 'required' },
  ]);
  const name = delegator?.name ?? email;
  return invited.length === 0
    ? null
    : { invited, message: `${name} asks you to come in their place.` };
}

/**
 * Why an answer is believed. What came to an address that only one knows is theirs; what came to the organizer's
 * own is, where it is from the address that answers, or from one that writes for it, and where the server that
 * receives mail is asked about senders it has to have found that to be true.
 * @returns a sentence
 * @throws Refusal where it is not
 */
async function believe(
  tx: Transaction,
  meeting: Meeting,
  { email, sentBy }: AnsweredBy,
  sender: AnswerSender,
  now: number,
): Promise<string> {
  if (sender.how === 'letter') return 'It came to the address of their own letter.';
  if (sender.how === 'hand') return 'Counted by hand.';
  const { from, personId, checked } = sender;
  if (meeting.organizerId !== personId)
    throw new Refusal(
      'not-theirs',
      'It answers for a meeting that somebody else organizes, and did not come to the address of a letter.',
    );
  refuseUnchecked(checked, from);
  if (addressKey(from) !== addressKey(email)) {
    if (!(await isBelievedSender(tx, personId, email, from, now)))
      throw new Refusal(
        'not-theirs',
        `It answers for ${email}, and came from ${from || 'nobody who is named'}.`,
      );
  } else if (sentBy && sentBy !== email) await believeSender(tx, personId, email, sentBy, now);
  return whyChecked(checked, from);
}

/** @throws Refusal where the server that receives mail did not find a letter to be from whom it names */
export function refuseUnchecked(checked: Checked, from: string): void {
  if (checked.by !== null && checked.found === null)
    throw new Refusal(
      'doubtful',
      `${checked.by} did not find it to be from ${from || 'whom it names'}.`,
    );
}

export const whyChecked = (checked: Checked, from: string): string =>
  checked.by === null
    ? `It says that it is from ${from}, which nothing here checks.`
    : `It is from ${from}, as ${checked.by} found by ${checked.found}.`;

/**
 * Asks whom somebody sends in their place, once the organizer agrees.
 * @throws Refusal where they are asked already, or it is cancelled
 */
export async function askInPlace(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  { eventId, attendeeId, email }: { eventId: string; attendeeId: number | null; email: string },
): Promise<void> {
  const meeting = await lockVisibleMeeting(tx, actor, eventId);
  const delegator = meeting.participants.find((one) => one.id === attendeeId);
  const sent = await inPlaceOf(tx, meeting, {
    email: delegator?.email ?? '',
    reply: 'declined',
    sentBy: null,
    sends: email,
  });
  if (!sent) throw new Refusal('asked-already', `${email} is asked already.`);
  const decision = decideInviteAlso(meeting, sent, platform.clock.now());
  await carryOut(tx, platform, actor, meeting, decision);
}

/**
 * Which meeting an answer is about, and who of those invited it names.
 * @returns null where it is none that can be read, or of a meeting not known here
 */
export async function meetingAnswered(
  db: Database,
  calendar: CalendarPart,
): Promise<{ eventId: string; attendeeId: number | null } | null> {
  if (calendar.kind !== 'answer') return null;
  const part = partsOf(calendar.message)[0]!;
  const eventId = (await findByUid(db, [part.uid])).get(part.uid);
  if (eventId === undefined) return null;
  const named = answererOf(part, [])?.email;
  const found = named ? await findByAddresses(db, eventId, [named]) : null;
  return { eventId, attendeeId: found?.get(addressKey(named!)) ?? null };
}

/** What is answered, each by itself. */
const partsOf = (message: AnswerMessage): ReplyMessage[] =>
  message.method === 'REPLY'
    ? message.answers
    : [message.method === 'COUNTER' ? message.counter : message.refresh];

/** Which date of a series is meant; null for all of it, or for what happens once. */
const dateOf = ({ occurrence }: Pick<ReplyMessage, 'occurrence'>, meeting: Meeting) =>
  isSeries(meeting) && occurrence ? namedIn(occurrence, meeting.timing.zone) : null;

/** What they say, and who says it in their stead. */
const noteOf = (
  { comment, andLater }: Pick<ReplyMessage, 'comment' | 'andLater'>,
  { sends, sentBy }: AnsweredBy,
): string =>
  [
    sends && `Sends ${sends} instead.`,
    comment,
    andLater && '(They say so of all later dates, too; this one is counted.)',
    sentBy && `(answered by ${sentBy})`,
  ]
    .filter(Boolean)
    .join(' ');

function commandOf(
  answer: ReplyMessage,
  by: AnsweredBy,
  meeting: Meeting,
  now: number,
): ReplyCommand {
  if (by.reply === null)
    throw new Refusal(
      'no-answer',
      `It does not say whether ${by.email} accepts, accepts tentatively or declines.`,
    );
  return {
    reply: by.reply,
    note: noteOf(answer, by),
    occurrence: dateOf(answer, meeting),
    stamp: answer.stamp ?? now,
    sequence: answer.sequence,
  };
}

function timesOf(
  counter: CounterMessage,
  by: AnsweredBy,
  meeting: Meeting,
  now: number,
): ProposeCommand {
  const { zone } = meeting.timing;
  const [start, end] = [counter.start, counter.end].map((one) =>
    'instant' in one ? one.instant : resolveWallTime(one.wall, zone).instant,
  ) as [number, number];
  return {
    // Of a series its next date is meant where none is named.
    occurrence: dateOf(counter, meeting) ?? nextOccurrence(meeting, now),
    times: [{ start, end }],
    note: noteOf(counter, by),
  };
}

function answerIn(calendar: CalendarPart): AnswerMessage {
  if (calendar.kind === 'answer') return calendar.message;
  const why =
    calendar.kind === 'unreadable'
      ? calendar.why
      : 'The calendar part is an invitation, not a REPLY.';
  throw new Refusal('not-a-reply', why, {
    fields: [{ field: 'calendar', message: 'must be an iTIP REPLY or COUNTER' }],
  });
}
