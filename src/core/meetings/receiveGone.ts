import { namedIn } from '../icalendar/times.ts';
import { addressKey } from '../mailAddress.ts';
import { parseRule, ruleText } from '../recurrence/rule.ts';
import { addDays, type WallTime } from '../time/wall.ts';
import type { Decision } from './decision.ts';
import { type HostedMessage, type KnownHere, notKnown, stamped, factOf } from './hosted.ts';
import { isSeries, type Answer, type Meeting, type Participant } from './meeting.ts';
import type { MeetingFact } from './meetingFacts.ts';
import { decideDates } from './receiveDates.ts';

/** That a meeting, some dates of it, or the rest of it does not happen, or that some are not asked any more. */
export function decideGone(
  before: Meeting | null,
  message: HostedMessage,
  known: KnownHere,
): Decision {
  if (!before) throw notKnown();
  const named = new Set(message.attendees.map((one) => one.email));
  const ofHere = before.participants.filter((one) => one.personId !== null);
  // Whoever is taken out of a meeting is the only one that the message names (RFC 5546 section 3.2.5), or that it
  // comes to, by an address that is not theirs here.
  const gone = ofHere.filter(
    (one) =>
      named.has(addressKey(one.email)) || (named.size > 0 && one.personId === known.receiverId),
  );
  if (gone.length > 0 && gone.length < ofHere.length)
    return withoutThem(before, message, gone, known);
  const single = message.events.filter((one) => one.occurrence !== null);
  const isWhole = single.length < message.events.length;
  if (isWhole || !isSeries(before)) {
    const after: Meeting = {
      ...before,
      status: 'cancelled',
      cancelledAt: known.now,
      sequence: message.sequence,
      version: before.version + 1,
      participants: stamped(before, message),
    };
    return {
      changes: [{ before, after }],
      facts: [{ ...factOf(before, after, message), kind: 'cancelled' }],
      notes: [],
      answer: { id: before.id, occurrence: null },
      undo: null,
    };
  }
  const from = single.find((one) => one.andLater);
  if (from) return decideEnd(before, namedIn(from.occurrence!, before.timing.zone), message, known);
  const decision = decideDates(before, before, message, single, known);
  return {
    ...decision,
    facts: decision.facts.map(asCancelled),
  };
}

/** That a series ends before one of its dates. */
function decideEnd(
  before: Meeting & { rule: string },
  from: WallTime,
  message: HostedMessage,
  known: KnownHere,
): Decision {
  if (from <= before.timing.startsAt)
    return decideGone(
      before,
      { ...message, events: [{ ...message.events[0]!, occurrence: null }] },
      known,
    );
  const rule = parseRule(before.rule);
  const lastDay = addDays(from.slice(0, 10), -1);
  const after: Meeting = {
    ...before,
    rule: ruleText({ ...rule, count: null, until: lastDay }),
    except: before.except.filter((at) => at < from),
    overrides: before.overrides.filter((one) => one.recurrenceId < from),
    sequence: Math.max(before.sequence, message.sequence),
    version: before.version + 1,
    participants: stamped(before, message),
  };
  return {
    changes: [{ before, after }],
    facts: [factOf(before, after, message)],
    notes: [],
    answer: { id: before.id, occurrence: null },
    undo: null,
  };
}

/** Some of here are not asked any more, to the whole or to single dates; for all others it stands. */
function withoutThem(
  before: Meeting,
  message: HostedMessage,
  gone: readonly Participant[],
  { now }: KnownHere,
): Decision {
  const dates = message.events.flatMap((one) =>
    one.occurrence === null ? [] : [namedIn(one.occurrence, before.timing.zone)],
  );
  const isWhole = dates.length < message.events.length || !isSeries(before);
  const off: Answer = {
    reply: 'declined',
    note: 'Not asked for this date any more.',
    askedAt: now,
    repliedAt: now,
    stamp: now,
  };
  const participants = stamped(before, message).flatMap((one) => {
    if (!gone.some((other) => other.id === one.id)) return [one];
    if (isWhole) return [];
    const occurrences = Object.fromEntries(dates.map((at) => [at, off]));
    return [{ ...one, occurrences: { ...one.occurrences, ...occurrences } }];
  });
  const after = { ...before, version: before.version + 1, participants };
  return {
    changes: [{ before, after }],
    facts: [
      {
        ...factOf(before, after, message),
        kind: isWhole ? 'uninvited' : 'changed',
        people: [...gone],
      },
    ],
    notes: [],
    answer: { id: before.id, occurrence: null },
    undo: null,
  };
}

/** What is told of dates, as that they are cancelled. */
const asCancelled = ({ details: _, ...fact }: MeetingFact): MeetingFact => ({
  ...fact,
  kind: 'cancelled',
});
