import type { Reply } from '../icalendar/message.ts';
import {
  timingInterval,
  type EventTiming,
  type Override,
  type SeriesPlan,
} from '../recurrence/series.ts';
import { Refusal } from '../refusal.ts';
import type { Interval } from '../time/interval.ts';
import type { WallTime } from '../time/wall.ts';
import type { Invited } from './create.ts';
import {
  DATE_FIELD_NAMES,
  pickFields,
  type DateFieldName,
  type DateFields,
  type MeetingFields,
} from './fields.ts';
import type { InviteeRights } from './rights.ts';

/** What an occurrence may have of its own; null says: as the series. */
export type OccurrenceDetails = { [Name in DateFieldName]: DateFields[Name] | null } & {
  /** Epoch milliseconds. */
  cancelledAt: number | null;
  endZone: string | null;
  /** The resources that are wanted for this date, in place of the series'. */
  resources: number[] | null;
  /** The SEQUENCE from which answers to this date count; null where the series' does. */
  minReplySequence: number | null;
};

export const NOTHING_OF_ITS_OWN: OccurrenceDetails = {
  ...(Object.fromEntries(DATE_FIELD_NAMES.map((name) => [name, null])) as Record<
    DateFieldName,
    null
  >),
  cancelledAt: null,
  endZone: null,
  resources: null,
  minReplySequence: null,
};

export type OccurrenceOverride = Override<OccurrenceDetails>;
export type MeetingPlan = SeriesPlan<OccurrenceDetails>;

/** What somebody answered, or that they were asked. */
export interface Answer {
  reply: Reply;
  note: string;
  /** Epoch milliseconds. */
  askedAt: number;
  repliedAt: number | null;
  /** DTSTAMP of the answer, by which the newer of two counts; null before there is one. */
  stamp: number | null;
}

/** Another time that somebody asks for. */
export interface Proposal extends Interval {
  /** The date of a series that is meant; null for what happens once. */
  occurrence: WallTime | null;
  note: string;
  /** Epoch milliseconds. */
  madeAt: number;
}

export interface Participant extends Answer {
  /** The attendee's own number, by which they are known; 0 before they are stored. */
  id: number;
  /** Null for people outside, who have an address alone. */
  personId: number | null;
  name: string;
  /** The present address. */
  email: string;
  role: 'organizer' | 'required' | 'optional';
  /** When they were last reminded to answer; null where not since they were asked. */
  nudgedAt: number | null;
  /** Other times they ask for. */
  proposals: Proposal[];
  /** Answers to single occurrences where they differ, by their place in the rule. */
  occurrences: Record<WallTime, Answer>;
}

/** What a meeting has that is not sent yet: seen by nobody but its organizer, and those acting for them. */
export interface Unsent {
  /** Whether it holds its organizer's time, tentatively, and its places meanwhile. */
  holds: boolean;
  /** Who is asked once it is sent. */
  invited: Invited[];
}

/** Which date of a series elsewhere something is, where the series itself is not known here. */
export interface DateOfSeries {
  uid: string;
  /** The original start by the series' own clock (RECURRENCE-ID); of whole days their midnight. */
  at: WallTime;
  zone: string;
  allDay: boolean;
}

/** Everything that makes one meeting, private event or booking, as plain values. */
export interface Meeting extends MeetingFields {
  id: string;
  uid: string;
  sequence: number;
  /** The SEQUENCE from which answers to the whole count: that of its present times and rule. */
  minReplySequence: number;
  version: number;
  /** Null for a meeting that somebody outside organizes. */
  organizerId: number | null;
  /** When it happens first, or at all. */
  timing: EventTiming;
  /** Where its end is read, if that is another zone. */
  endZone: string | null;
  rule: string | null;
  /** Occurrences left out (EXDATE). */
  except: WallTime[];
  overrides: OccurrenceOverride[];
  rights: InviteeRights;
  status: 'confirmed' | 'cancelled';
  /** Null once it is sent, or where it never was a draft. */
  draft: Unsent | null;
  /** Where somebody elsewhere asks to a single date of a series alone. */
  dateOf?: DateOfSeries | null;
  /** Epoch milliseconds. */
  cancelledAt: number | null;
  /** Resources that every occurrence wants, unless it has a list of its own. */
  resources: number[];
  participants: Participant[];
}

export const isSeries = <M extends Pick<Meeting, 'rule'>>(
  meeting: M,
): meeting is M & { rule: string } => meeting.rule !== null;

/** When a series happens. */
export const planOf = (
  meeting: Pick<Meeting, 'timing' | 'except' | 'overrides'> & { rule: string },
): MeetingPlan => ({
  ...meeting.timing,
  rule: meeting.rule,
  except: meeting.except,
  overrides: meeting.overrides,
});

/** The meeting with the times, exceptions and overrides of a plan. */
export function withPlan<M extends Meeting>(meeting: M, plan: MeetingPlan): M {
  const { rule, except, overrides, startsAt, zone, fold, lengthMinutes, allDay } = plan;
  const timing = { startsAt, zone, fold, lengthMinutes, allDay };
  return { ...meeting, timing, rule, except: [...except].sort(), overrides };
}

/** One occurrence as it is, its own times and texts put in. */
export interface Occurrence extends DateFields, Interval {
  /** Its place in the rule; null for a single event. */
  recurrenceId: WallTime | null;
  timing: EventTiming;
  endZone: string | null;
  resources: number[];
}

/** @param at its place in the rule; null for what happens once, or for the whole of a series */
export function occurrenceOf(meeting: Meeting, at: WallTime | null): Occurrence {
  const { endZone, resources } = meeting;
  const fields = pickFields(DATE_FIELD_NAMES, meeting);
  if (at === null) {
    const { timing } = meeting;
    return { ...fields, ...timingInterval(timing), recurrenceId: null, timing, endZone, resources };
  }
  const override = meeting.overrides.find((one) => one.recurrenceId === at);
  const own = override?.details ?? NOTHING_OF_ITS_OWN;
  const timing = override?.timing ?? { ...meeting.timing, startsAt: at };
  const ownFields = DATE_FIELD_NAMES.filter((name) => own[name] !== null);
  return {
    ...timingInterval(timing),
    recurrenceId: at,
    timing,
    endZone: override?.timing ? own.endZone : endZone,
    ...fields,
    ...(pickFields(ownFields, own) as Partial<DateFields>),
    resources: own.resources ?? resources,
  };
}

/** What somebody answered to an occurrence; null for the whole. */
export const answerOf = (participant: Participant, at: WallTime | null): Answer =>
  (at !== null && participant.occurrences[at]) || participant;

/** Every resource that the meeting wants on any date. */
export const wantedResources = (meeting: Meeting): number[] => [
  ...new Set([
    ...meeting.resources,
    ...meeting.overrides.flatMap((one) => one.details.resources ?? []),
  ]),
];

/** Whether somebody invited sees who else is; whoever may change it can take people out, and so does. */
export const seesList = (
  { rights }: Pick<Meeting, 'rights'>,
  reader: Pick<Participant, 'personId'>,
): boolean => rights.list || (rights.change && reader.personId !== null);

/** Who of a meeting somebody invited is shown: all, or its organizer and themselves alone. */
export const listedFor = (
  meeting: Pick<Meeting, 'participants' | 'rights'>,
  reader: Pick<Participant, 'id' | 'personId'>,
): Participant[] =>
  seesList(meeting, reader)
    ? meeting.participants
    : meeting.participants.filter((one) => one.role === 'organizer' || one.id === reader.id);

/**
 * Who organizes a meeting here.
 * @throws Refusal when somebody elsewhere does
 */
export function organizerHere({ organizerId }: Pick<Meeting, 'organizerId'>): number {
  if (organizerId === null)
    throw new Refusal(
      'not-organizer',
      'This meeting is organized elsewhere; only its organizer changes it.',
    );
  return organizerId;
}

/** Everyone of this installation who takes part. */
export const peopleOf = (meeting: Pick<Meeting, 'participants'>): number[] =>
  meeting.participants.flatMap(({ personId }) => personId ?? []);
