import type { Reply } from '../icalendar/message.ts';
import type { AskedEvent } from '../icalendar/request.ts';
import { askAgain } from '../icalendar/sequence.ts';
import { namedIn } from '../icalendar/times.ts';
import { addressKey } from '../mailAddress.ts';
import { withOverride } from '../recurrence/series.ts';
import { Refusal } from '../refusal.ts';
import { happensAt, overrideAt } from './dates.ts';
import type { Decision } from './decision.ts';
import { fieldOf, type DateFields, type FieldName } from './fields.ts';
import { type HostedMessage, type KnownHere, stamped, factOf } from './hosted.ts';
import { isSeries, planOf, type Meeting, type Participant } from './meeting.ts';

/** What it says of itself; texts come plain and are kept as HTML. */
export const saidOf = ({ fields }: AskedEvent, known: KnownHere): Partial<DateFields> =>
  Object.fromEntries(
    Object.entries(fields)
      .filter(([name]) => fieldOf(name as FieldName).perDate)
      .map(([name, value]) => [
        name,
        fieldOf(name as FieldName).kind === 'rich' ? known.asHtml(value as string) : value,
      ]),
  );

export const timingOf = ({ startsAt, zone, lengthMinutes, allDay }: AskedEvent) => ({
  startsAt,
  zone,
  fold: 'earlier' as const,
  lengthMinutes,
  allDay,
});

/** Single dates of a series, as the message says them. */
export function decideDates(
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

/** What somebody of here answered without Marmot, as the organizer says it. */
export const saidElsewhere = ({ reply }: { reply: Reply }, now: number): Partial<Participant> =>
  reply === 'needs-action' ? {} : { reply, repliedAt: now };

/** Whoever answered other times is asked anew; every other answer of people here stays. */
export function answersKept(
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
