import type { AskedEvent } from '../icalendar/request.ts';
import { parseRule, ruleText } from '../recurrence/rule.ts';
import { Refusal } from '../refusal.ts';
import { same } from '../same.ts';
import type { Decision } from './decision.ts';
import { USUAL_FIELDS } from './fields.ts';
import { type HostedMessage, type KnownHere, notKnown, refuseForeign, factOf } from './hosted.ts';
import { isSeries, withPlan, type Meeting, type Participant } from './meeting.ts';
import { askedAt, factsOfChange, participantKey } from './people.ts';
import { saidOf, timingOf, decideDates, saidElsewhere, answersKept } from './receiveDates.ts';
import { decideGone } from './receiveGone.ts';
import { MOST_OF_ELSEWHERE, inThisCentury } from './receiveSeries.ts';
import { USUAL_RIGHTS } from './rights.ts';
import { beginSeries, namingField } from './timing.ts';

/** So many of here may stand in one meeting of elsewhere. */
const MOST_OF_HERE = 500;

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
