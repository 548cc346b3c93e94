import { addressKey } from '../mailAddress.ts';
import type { RequestMessage, AskedEvent } from '../icalendar/request.ts';
import { askAgain } from '../icalendar/sequence.ts';
import { namedIn } from '../icalendar/times.ts';
import { parseRule, ruleText } from '../recurrence/rule.ts';
import { withOverride } from '../recurrence/series.ts';
import { Refusal } from '../refusal.ts';
import { happensAt, overrideAt } from './dates.ts';
import type { Decision } from './decision.ts';
import type { ChangeFact, MeetingFact } from './meetingFacts.ts';
import { isSeries, planOf, withPlan, type Meeting, type Participant } from './meeting.ts';
import { beginSeries, namingField } from './timing.ts';
import { fieldOf, USUAL_FIELDS, type DateFields, type FieldName } from './fields.ts';
import { askedAt, participantKey } from './people.ts';
import { USUAL_RIGHTS } from './rights.ts';

/** What the message cannot know by itself. */
export interface KnownHere {
  /** Epoch milliseconds. */
  now: number;
  newId: string;
  /** Those of the addresses that are somebody's here. */
  people: ReadonlyMap<string, { id: number; name: string }>;
  /** Makes clean HTML of plain text. */
  asHtml: (text: string) => string;
}

/**
 * Takes what somebody elsewhere sends of a meeting that they organize (RFC 5546 sections 3.2.2, 3.2.5):
 * an invitation, a change of it, that it is cancelled. It is kept as they say it; what people here
 * answered stays, unless they are asked about other times.
 * @param before the meeting as it is kept; null where it is new
 * @throws Refusal when it is older than what is kept, from another organizer, or cannot be kept
 */
export function decideReceive(
  before: Meeting | null,
  message: RequestMessage,
  known: KnownHere,
): Decision {
  if (before) refuseForeign(before, message);
  const [first] = message.events;
  if (message.method === 'CANCEL') return decideGone(before, message);
  if (first!.occurrence === null) return decideWhole(before, message, first!, known);
  if (!before) throw notKnown();
  return decideDates(before, before, message, message.events, known);
}

export const notKnown = () =>
  new Refusal('unknown-meeting', 'It is about a meeting that nobody here was invited to.');

const hostOf = (meeting: Meeting): Participant =>
  meeting.participants.find((one) => one.role === 'organizer')!;

/** @throws Refusal when a message is not of the meeting's organizer, or older than what is kept */
export function refuseForeign(
  before: Meeting,
  { organizer, sequence, stamp }: RequestMessage,
): void {
  if (before.organizerId !== null)
    throw new Refusal(
      'not-theirs',
      'The meeting is organized here, and not by whoever wrote this.',
    );
  const host = hostOf(before);
  if (addressKey(host.email) !== organizer.email)
    throw new Refusal(
      'not-theirs',
      `The meeting is organized by ${host.email}, and not by ${organizer.email}.`,
    );
  if (sequence < before.sequence || (sequence === before.sequence && stamp < (host.stamp ?? 0)))
    throw new Refusal('outdated', 'It is older than what is known of the meeting already.');
}

/** What it says of itself; texts come plain and are kept as HTML. */
const saidOf = ({ fields }: AskedEvent, known: KnownHere): Partial<DateFields> =>
  Object.fromEntries(
    Object.entries(fields)
      .filter(([name]) => fieldOf(name as FieldName).perDate)
      .map(([name, value]) => [
        name,
        fieldOf(name as FieldName).kind === 'rich' ? known.asHtml(value as string) : value,
      ]),
  );

const timingOf = ({ startsAt, zone, lengthMinutes, allDay }: AskedEvent) => ({
  startsAt,
  zone,
  fold: 'earlier' as const,
  lengthMinutes,
  allDay,
});

function decideWhole(
  before: Meeting | null,
  message: RequestMessage,
  event: AskedEvent,
  known: KnownHere,
): Decision {
  const rule = event.rule && namingField('calendar', () => ruleText(parseRule(event.rule!)));
  const timing = rule ? beginSeries(timingOf(event), { rule }).timing : timingOf(event);
  const once: Meeting = {
    ...USUAL_FIELDS,
    ...saidOf(event, known),
    id: before?.id ?? known.newId,
    uid: message.uid,
    sequence: message.sequence,
    minReplySequence: message.sequence,
    version: (before?.version ?? 0) + 1,
    organizerId: null,
    timing,
    endZone: null,
    rule: null,
    except: [],
    overrides: [],
    visibility: event.fields.visibility,
    rights: USUAL_RIGHTS,
    status: event.cancelled ? 'cancelled' : 'confirmed',
    draft: null,
    cancelledAt: event.cancelled ? known.now : null,
    resources: [],
    participants: peopleIn(before, message, known),
  };
  const drafted = rule
    ? withPlan(once, { ...timing, rule, except: event.except, overrides: [] })
    : once;
  const after = before ? answersKept(before, drafted, known.now) : drafted;
  const dates = message.events.slice(1);
  if (dates.length > 0 && isSeries(after)) return decideDates(before, after, message, dates, known);
  return {
    changes: [{ before, after }],
    facts: [factOf(before, after, message)],
    notes: [],
    answer: { id: after.id, occurrence: null },
    undo: null,
  };
}

/** Single dates of a series, as the message says them. */
function decideDates(
  before: Meeting | null,
  base: Meeting,
  message: RequestMessage,
  dates: readonly AskedEvent[],
  known: KnownHere,
): Decision {
  if (!isSeries(base))
    throw new Refusal('not-a-series', 'It names a date of a meeting that does not repeat.');
  let plan = planOf(base);
  const named: string[] = [];
  for (const event of dates) {
    const at = namedIn(event.occurrence!, base.timing.zone);
    // Later messages may tell of dates that a rule of before named.
    if (!happensAt({ ...plan, overrides: [] }, at)) continue;
    named.push(at);
    plan = {
      ...plan,
      ...withOverride(plan, {
        ...overrideAt(plan, at),
        cancelled: event.cancelled,
        timing: event.cancelled ? overrideAt(plan, at).timing : timingOf(event),
        details: {
          ...overrideAt(plan, at).details,
          cancelledAt: event.cancelled ? known.now : null,
          ...(!event.cancelled && saidOf(event, known)),
        },
      }),
    };
  }
  if (named.length === 0)
    throw new Refusal('not-a-date', 'It names dates on which the series does not happen.');
  const whole = before === base;
  const drafted: Meeting = {
    ...base,
    overrides: plan.overrides,
    sequence: Math.max(base.sequence, message.sequence),
    version: whole ? base.version + 1 : base.version,
    participants: whole ? stamped(base, message) : base.participants,
  };
  const after = before ? answersKept(before, drafted, known.now) : drafted;
  return {
    changes: [{ before, after }],
    facts: [
      {
        ...factOf(before, after, message),
        occurrence: whole && named.length === 1 ? named[0]! : null,
      },
    ],
    notes: [],
    answer: { id: after.id, occurrence: null },
    undo: null,
  };
}

function decideGone(before: Meeting | null, message: RequestMessage): Decision {
  if (!before) throw notKnown();
  const single = message.events.filter((one) => one.occurrence !== null);
  const isWhole = single.length < message.events.length;
  if (isWhole || !isSeries(before)) {
    const after: Meeting = {
      ...before,
      status: 'cancelled',
      cancelledAt: message.stamp,
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
  const known = {
    now: message.stamp,
    newId: '',
    people: new Map(),
    asHtml: (text: string) => text,
  };
  const decision = decideDates(before, before, message, single, known);
  return {
    ...decision,
    facts: decision.facts.map(asCancelled),
  };
}

/** What is told of dates, as that they are cancelled. */
const asCancelled = ({ details: _, ...fact }: MeetingFact): MeetingFact => ({
  ...fact,
  kind: 'cancelled',
});

const stamped = (meeting: Meeting, { stamp }: RequestMessage): Participant[] =>
  meeting.participants.map((one) => (one.role === 'organizer' ? { ...one, stamp } : one));

/** Who takes part, as the message says it; whoever is of this place is known as that person. */
function peopleIn(
  before: Meeting | null,
  { organizer, attendees, stamp }: RequestMessage,
  { people, now }: KnownHere,
): Participant[] {
  const there = new Map(before?.participants.map((one) => [participantKey(one), one]));
  const host = { personId: null, name: organizer.name, email: organizer.email };
  const kept = before?.participants.find((one) => one.role === 'organizer');
  const others = attendees
    .filter((one) => one.email !== organizer.email)
    .map((one): Participant => {
      const person = people.get(one.email);
      const invited = {
        personId: person?.id ?? null,
        name: person?.name ?? one.name,
        email: one.email,
        role: one.role,
      };
      const known = there.get(participantKey(invited));
      const asked = known ? { ...known, ...invited } : askedAt(invited, now);
      // Of people elsewhere the organizer knows; those of here have answered here.
      return person ? asked : { ...asked, reply: one.reply };
    });
  return [
    {
      ...(kept ?? askedAt({ ...host, role: 'required' }, now)),
      ...host,
      role: 'organizer',
      reply: 'accepted',
      stamp,
    },
    ...others,
  ];
}

/** Whoever answered other times is asked anew; every other answer of people here stays. */
function answersKept(before: Meeting, after: Meeting, now: number): Meeting {
  const again = askAgain(before, after);
  const asked = {
    reply: 'needs-action' as const,
    note: '',
    askedAt: now,
    repliedAt: null,
    stamp: null,
  };
  const participants = after.participants.map((one): Participant => {
    if (one.personId === null) return one;
    if (again.whole) return { ...one, ...asked, proposals: [], occurrences: {} };
    const dates = Object.fromEntries(again.occurrences.map((at) => [at, asked]));
    return { ...one, occurrences: { ...one.occurrences, ...dates } };
  });
  return { ...after, participants };
}

const factOf = (
  before: Meeting | null,
  after: Meeting,
  { comment }: RequestMessage,
): ChangeFact => {
  const again = before && askAgain(before, after);
  const moved = again && (again.whole || again.occurrences.length > 0);
  return {
    kind: !before ? 'invited' : moved ? 'moved' : 'changed',
    meetingId: after.id,
    occurrence: null,
    tell: true,
    message: comment,
  };
};
