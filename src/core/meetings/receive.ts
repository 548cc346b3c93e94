import { addressKey } from '../mailAddress.ts';
import type { CalendarAddress, Reply } from '../icalendar/message.ts';
import { dateWords, type AskedEvent, type RequestMessage } from '../icalendar/request.ts';
import { askAgain } from '../icalendar/sequence.ts';
import { namedIn } from '../icalendar/times.ts';
import { parseRule, ruleText } from '../recurrence/rule.ts';
import { firstOccurrence, wallTimesFrom } from '../recurrence/expand.ts';
import { withOverride, type EventTiming } from '../recurrence/series.ts';
import { Refusal } from '../refusal.ts';
import { same } from '../same.ts';
import { addDays, resolveWallTime, wallTimeAt, type WallTime } from '../time/wall.ts';
import { happensAt, overrideAt } from './dates.ts';
import type { Decision } from './decision.ts';
import type { ChangeFact, MeetingFact } from './meetingFacts.ts';
import {
  isSeries,
  planOf,
  withPlan,
  type Answer,
  type DateOfSeries,
  type Meeting,
  type Participant,
} from './meeting.ts';
import { beginSeries, namingField } from './timing.ts';
import { fieldOf, USUAL_FIELDS, type DateFields, type FieldName } from './fields.ts';
import { askedAt, factsOfChange, participantKey } from './people.ts';
import { USUAL_RIGHTS } from './rights.ts';

/** What somebody elsewhere sends of a meeting that they organize. */
export type HostedMessage = RequestMessage & {
  organizer: CalendarAddress;
  /** Where it is about a single date of a series that is not known here, which. */
  dateOf?: DateOfSeries;
};

const EARLIEST: WallTime = '2000-01-01T00:00';
/** The first date of a rule that happens at most every eight years lies before it. */
const SOON_AFTER: WallTime = '2009-01-01T00:00';
/** So many people of elsewhere are kept of one meeting; of here, all. */
const MOST_OF_ELSEWHERE = 200;
/** So many of here may stand in one meeting of elsewhere. */
const MOST_OF_HERE = 500;

/** What the message cannot know by itself. */
export interface KnownHere {
  /** Epoch milliseconds. */
  now: number;
  newId: string;
  /** Those of the addresses that are somebody's here. */
  people: ReadonlyMap<string, { id: number; name: string }>;
  /** Whoever it came to. */
  receiverId: number;
  /** Makes clean HTML of plain text. */
  asHtml: (text: string) => string;
}

/**
 * Takes what somebody elsewhere sends of a meeting that they organize (RFC 5546 sections 3.2.1, 3.2.2, 3.2.5):
 * an invitation, a change of it, that it is cancelled, or that somebody is not asked any more. It is kept as
 * they say it; what people here answered stays, unless they are asked about other times.
 * @param before the meeting as it is kept; null where it is new
 * @returns null where it says nothing that is not known already
 * @throws Refusal when it is older than what is kept, from another organizer, or cannot be kept
 */
export function decideReceive(
  before: Meeting | null,
  message: HostedMessage,
  known: KnownHere,
): Decision | null {
  if (before) refuseForeign(before, message);
  const [first] = message.events;
  if (message.method === 'CANCEL') return decideGone(before, message, known);
  const decision =
    first!.occurrence === null
      ? decideWhole(before, message, first!, known)
      : decideDates(before ?? refuseUnknown(), before!, message, message.events, known);
  const { after } = decision.changes[0]!;
  if (!before || !after || decision.changes.length > 1) return decision;
  if (saysNothingNew(before, after, 'answers count')) return null;
  // What others elsewhere answered is seen at the meeting, and is no news.
  if (!saysNothingNew(before, after, 'answers aside')) return decision;
  return { ...decision, facts: decision.facts.map((fact) => ({ ...fact, tell: false })) };
}

/** Whether a message says what is known: it came for several people, or once more. */
function saysNothingNew(
  before: Meeting,
  after: Meeting,
  others: 'answers count' | 'answers aside',
): boolean {
  const content = ({ version: _, participants, overrides, dateOf = null, ...rest }: Meeting) => ({
    ...rest,
    dateOf,
    overrides: [...overrides].sort((a, b) => (a.recurrenceId < b.recurrenceId ? -1 : 1)),
    participants: participants
      .map((one) => ({
        ...one,
        id: 0,
        ...(one.role === 'organizer' && { stamp: null, repliedAt: null, askedAt: 0 }),
        ...(one.personId === null && others === 'answers aside' && { reply: 'needs-action' }),
      }))
      .sort((a, b) => (participantKey(a) < participantKey(b) ? -1 : 1)),
  });
  // What is kept knows more than what a message makes.
  const was: Record<string, unknown> = content(before);
  return Object.entries(content(after)).every(([name, value]) => same(was[name], value));
}

function refuseUnknown(): never {
  throw notKnown();
}

/**
 * A message about single dates of a series, as messages about meetings that happen once: whoever is asked to one
 * date of a series alone is told of no more than that (RFC 5546 section 3.2.2). Each has a UID of its own.
 */
export const asSingleDates = (message: HostedMessage): HostedMessage[] =>
  message.events.flatMap((event): HostedMessage[] => {
    if (event.occurrence === null) return [];
    const { uid } = message;
    const named = event.occurrence;
    const zone = event.zone;
    const dateOf = { uid, at: namedIn(named, zone), zone, allDay: event.allDay };
    const name = 'instant' in named ? new Date(named.instant).toISOString() : named.wall;
    return [
      { ...message, uid: `${uid} (${name})`, events: [{ ...event, occurrence: null }], dateOf },
    ];
  });

/**
 * What is decided of a whole series, single dates of which were known by themselves: they go into it, and what
 * people here answered to them stays.
 * @param decided the series as it is made anew
 */
export function withItsDates(decided: Decision, dates: readonly Meeting[]): Decision {
  const whole = decided.changes[0]!.after!;
  if (!isSeries(whole)) return decided;
  const plan = planOf(whole);
  const named = dates.flatMap((one) => {
    const { dateOf } = one;
    if (!dateOf) return [];
    const at = dateOf.allDay
      ? dateOf.at
      : wallTimeAt(resolveWallTime(dateOf.at, dateOf.zone).instant, whole.timing.zone);
    return happensAt(plan, at) ? [{ at, one }] : [];
  });
  const participants = whole.participants.map((person): Participant => {
    if (person.personId === null) return person;
    const answers = named.flatMap(({ at, one }) => {
      const there = one.participants.find((other) => other.personId === person.personId);
      if (!there || there.reply === 'needs-action') return [];
      const { reply, note, askedAt, repliedAt, stamp } = there;
      return [[at, { reply, note, askedAt, repliedAt, stamp }] as const];
    });
    return { ...person, occurrences: Object.fromEntries(answers) };
  });
  return {
    ...decided,
    changes: [
      ...dates.map((before) => ({ before, after: null })),
      { before: null, after: { ...whole, participants } },
    ],
  };
}

/** What of a message is not kept because of what is kept here, a sentence each. */
export function leftOut(message: HostedMessage, { people }: Pick<KnownHere, 'people'>): string[] {
  const elsewhere = message.attendees.filter(
    (one) => one.email !== message.organizer.email && !people.has(one.email),
  ).length;
  const more = elsewhere - MOST_OF_ELSEWHERE;
  const [whole] = message.events;
  const first = whole!.rule && message.method !== 'CANCEL' ? firstKept(whole!) : null;
  return [
    more > 0 && `${more} of those whom it invites elsewhere are not listed here.`,
    first &&
      `Its first date, ${dateWords(first, whole!.allDay, first)}, does not follow its rule and is not kept.`,
  ].filter((one) => one !== false && one !== null && one !== '') as string[];
}

/** The first date of a series where its rule does not name it; null where it does, or the rule cannot be kept. */
function firstKept({ startsAt, rule }: AskedEvent): WallTime | null {
  try {
    return firstOccurrence(parseRule(rule!), startsAt) === startsAt ? null : startsAt;
  } catch {
    // What is wrong with it is said where it is taken.
    return null;
  }
}

export const notKnown = () =>
  new Refusal('unknown-meeting', 'It is about a meeting that nobody here was invited to.');

const hostOf = (meeting: Meeting): Participant =>
  meeting.participants.find((one) => one.role === 'organizer')!;

/** @throws Refusal when a message is not of the meeting's organizer, or older than what is kept */
export function refuseForeign(
  before: Meeting,
  { organizer, sequence, stamp }: HostedMessage,
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
  message: HostedMessage,
  event: AskedEvent,
  known: KnownHere,
): Decision {
  const rule = event.rule && namingField('calendar', () => ruleText(parseRule(event.rule!)));
  const begun = rule ? inThisCentury({ ...timingOf(event), rule }) : null;
  const timing = begun ? beginSeries(begun.timing, begun).timing : timingOf(event);
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
    dateOf: message.dateOf ?? before?.dateOf ?? null,
    cancelledAt: event.cancelled ? known.now : null,
    resources: [],
    participants: peopleIn(before, message, known),
  };
  const drafted = begun
    ? withPlan(once, {
        ...timing,
        rule: begun.rule,
        except: event.except.filter((at) => at >= timing.startsAt),
        overrides: [],
      })
    : once;
  const after = before ? answersKept(before, drafted, message, known.now) : drafted;
  const dates = message.events.slice(1);
  if (dates.length > 0 && isSeries(after)) return decideDates(before, after, message, dates, known);
  return {
    changes: [{ before, after }],
    facts: before
      ? factsOfChange({ before, after }, factOf(before, after, message), 'everyone')
      : [factOf(before, after, message)],
    notes: [],
    answer: { id: after.id, occurrence: null },
    undo: null,
  };
}

/**
 * A series that began before the years that are kept, from the first date that lies in them on: it goes on in
 * the same rhythm, with as many dates less as lie before.
 * @throws Refusal where none does
 */
function inThisCentury({ rule, ...timing }: EventTiming & { rule: string }): {
  timing: EventTiming;
  rule: string;
} {
  if (timing.startsAt >= EARLIEST) return { timing, rule };
  const parsed = parseRule(rule);
  const to = namingField('calendar', () => {
    // The first of the dates in sight; one of a rule that waits longer is looked for by it.
    const near = wallTimesFrom({ ...parsed, count: null }, timing.startsAt, SOON_AFTER);
    return near.find((at) => at >= EARLIEST);
  });
  const passed =
    to === undefined
      ? 0
      : wallTimesFrom(parsed, timing.startsAt, to).filter((at) => at < to).length;
  if (to === undefined || (parsed.count !== null && passed >= parsed.count))
    throw new Refusal('long-over', 'It happened before the year 2000, and never after.');
  return {
    timing: { ...timing, startsAt: to },
    rule: ruleText({ ...parsed, count: parsed.count === null ? null : parsed.count - passed }),
  };
}

/** Single dates of a series, as the message says them. */
function decideDates(
  before: Meeting | null,
  base: Meeting,
  message: HostedMessage,
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
  const after = before ? answersKept(before, drafted, message, known.now) : drafted;
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

/** That a meeting, some dates of it, or the rest of it does not happen, or that some are not asked any more. */
function decideGone(before: Meeting | null, message: HostedMessage, known: KnownHere): Decision {
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

const stamped = (meeting: Meeting, { stamp }: HostedMessage): Participant[] =>
  meeting.participants.map((one) => (one.role === 'organizer' ? { ...one, stamp } : one));

/** Who takes part, as the message says it; whoever is of this place is known as that person. */
function peopleIn(
  before: Meeting | null,
  { organizer, attendees, stamp }: HostedMessage,
  { people, now }: KnownHere,
): Participant[] {
  const there = new Map(before?.participants.map((one) => [participantKey(one), one]));
  const host = { personId: null, name: organizer.name, email: organizer.email };
  const kept = before?.participants.find((one) => one.role === 'organizer');
  const asked = attendees.filter((one) => one.email !== organizer.email);
  const ofHere = asked.filter((one) => people.has(one.email));
  if (ofHere.length > MOST_OF_HERE)
    throw new Refusal('too-many', `It invites more than ${MOST_OF_HERE} people of here.`);
  let elsewhere = 0;
  const others = asked
    .filter((one) => people.has(one.email) || ++elsewhere <= MOST_OF_ELSEWHERE)
    .map((one): Participant => {
      const person = people.get(one.email);
      const invited = {
        personId: person?.id ?? null,
        name: person?.name ?? one.name,
        email: one.email,
        role: one.role,
      };
      const known = there.get(participantKey(invited));
      const standing = known ? { ...known, ...invited } : askedAt(invited, now);
      // Of people elsewhere the organizer knows. Those of here have answered here, or told the organizer.
      if (!person) return { ...standing, reply: one.reply };
      return standing.reply === 'needs-action'
        ? { ...standing, ...saidElsewhere(one, now) }
        : standing;
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

/** What somebody of here answered without Marmot, as the organizer says it. */
const saidElsewhere = ({ reply }: { reply: Reply }, now: number): Partial<Participant> =>
  reply === 'needs-action' ? {} : { reply, repliedAt: now };

/** Whoever answered other times is asked anew; every other answer of people here stays. */
function answersKept(
  before: Meeting,
  after: Meeting,
  { attendees }: HostedMessage,
  now: number,
): Meeting {
  const said = new Map(attendees.map((one) => [one.email, one]));
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
    if (again.whole) {
      const elsewhere = said.get(addressKey(one.email));
      return {
        ...one,
        ...asked,
        proposals: [],
        occurrences: {},
        ...(elsewhere && saidElsewhere(elsewhere, now)),
      };
    }
    const dates = Object.fromEntries(again.occurrences.map((at) => [at, asked]));
    return { ...one, occurrences: { ...one.occurrences, ...dates } };
  });
  return { ...after, participants };
}

const factOf = (before: Meeting | null, after: Meeting, { comment }: HostedMessage): ChangeFact => {
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
