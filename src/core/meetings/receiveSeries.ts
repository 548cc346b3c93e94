import { dateWords, type AskedEvent } from '../icalendar/request.ts';
import { namedIn } from '../icalendar/times.ts';
import { firstOccurrence, wallTimesFrom } from '../recurrence/expand.ts';
import { parseRule, ruleText } from '../recurrence/rule.ts';
import type { EventTiming } from '../recurrence/series.ts';
import { Refusal } from '../refusal.ts';
import { resolveWallTime, wallTimeAt, type WallTime } from '../time/wall.ts';
import { happensAt } from './dates.ts';
import type { Decision } from './decision.ts';
import type { HostedMessage, KnownHere } from './hosted.ts';
import { isSeries, planOf, type Meeting, type Participant } from './meeting.ts';
import { namingField } from './timing.ts';

const EARLIEST: WallTime = '2000-01-01T00:00';
/** The first date of a rule that happens at most every eight years lies before it. */
const SOON_AFTER: WallTime = '2009-01-01T00:00';
/** So many people of elsewhere are kept of one meeting; of here, all. */
export const MOST_OF_ELSEWHERE = 200;
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

/**
 * A series that began before the years that are kept, from the first date that lies in them on: it goes on in
 * the same rhythm, with as many dates less as lie before.
 * @throws Refusal where none does
 */
export function inThisCentury({ rule, ...timing }: EventTiming & { rule: string }): {
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
