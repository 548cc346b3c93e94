import { z } from 'zod';
import { occupancy, proposal, reply, rightsOfInvitees } from './values.ts';
import { reminder, shownFields } from './eventParts.ts';

export type { Reply } from './values.ts';

/** One occurrence as it stands in a person's calendar. */
export const calendarItem = z.strictObject({
  eventId: z.uuid(),
  occurrenceId: z.int(),
  /** The wall time that names it within its series; null for a single event. */
  recurrenceId: z.string().nullable(),
  version: z.int(),
  title: z.string(),
  place: z.string(),
  start: z.int(),
  end: z.int(),
  allDay: z.boolean(),
  /** Whether it is not sent yet, and seen by nobody else. */
  draft: z.boolean(),
  /** The event's own zone, and that of its end where it is another. */
  zone: z.string(),
  endZone: z.string().nullable(),
  occupancy: occupancy,
  /** My own reply, or `organizer` where the event is mine. */
  standing: z.union([reply, z.literal('organizer')]),
  organizer: z.string(),
  attendeeCount: z.int(),
  resources: z.array(z.string()),
  categoryId: z.int().nullable(),
});
export type CalendarItem = z.output<typeof calendarItem>;

export const eventAttendee = z.strictObject({
  /** The attendee's own number within the installation. */
  id: z.int(),
  personId: z.int().nullable(),
  name: z.string(),
  email: z.string(),
  role: z.enum(['organizer', 'required', 'optional']),
  reply: reply,
  note: z.string(),
  invitedAt: z.int(),
  repliedAt: z.int().nullable(),
  /** When they were last reminded to answer. */
  nudgedAt: z.int().nullable(),
  /** Other times they ask for; of others only where I may change it. */
  proposals: z.array(proposal),
  /** Why the last letter to them did not reach them; null as far as is known that it did. */
  undelivered: z.string().nullable(),
});

export const eventSeries = z.strictObject({
  rule: z.string(),
  /** The rule in words. */
  sentence: z.string(),
  /** Wall times of the first occurrence, in the event's zone. */
  startsAt: z.string(),
  endsAt: z.string(),
  allDay: z.boolean(),
  except: z.array(z.string()),
  /** Occurrences that were cancelled by themselves. */
  cancelled: z.array(z.string()),
  /** Occurrences with something of their own. */
  changed: z.array(z.string()),
  /** The occurrence that this detail shows, by its place in the rule. */
  recurrenceId: z.string().nullable(),
});

export const attachment = z.strictObject({
  id: z.string(),
  name: z.string(),
  type: z.string(),
  /** Bytes. */
  size: z.int(),
  addedBy: z.string(),
  addedAt: z.int(),
});
export type Attachment = z.output<typeof attachment>;

export const eventDetail = z.strictObject({
  id: z.string(),
  uid: z.string(),
  sequence: z.int(),
  version: z.int(),
  ...shownFields,
  /** Of the occurrence asked for; else of the next one. */
  start: z.int(),
  end: z.int(),
  startsAt: z.string(),
  endsAt: z.string(),
  zone: z.string(),
  endZone: z.string().nullable(),
  fold: z.enum(['earlier', 'later']),
  allDay: z.boolean(),
  rights: rightsOfInvitees,
  status: z.enum(['confirmed', 'cancelled']),
  /** Set while it is not sent: nobody else sees it, and `attendees` are those it will ask. */
  draft: z
    .strictObject({
      holds: z.boolean(),
    })
    .nullable(),
  /** Null for a single event. */
  series: eventSeries.nullable(),
  /** Whose id is null where they are elsewhere. */
  organizer: z.strictObject({
    id: z.int().nullable(),
    name: z.string(),
  }),
  attendees: z.array(eventAttendee),
  resources: z.array(
    z.strictObject({
      id: z.int(),
      name: z.string(),
      site: z.string(),
      seats: z.int(),
      /** Whether a steward has yet to agree to it, for some date at least. */
      isAsked: z.boolean(),
    }),
  ),
  canChange: z.boolean(),
  /** Whether I may cancel it and decide what others may do, as its organizer does. */
  canCancel: z.boolean(),
  /** Whether I may ask others as well. */
  canInvite: z.boolean(),
  /** Whether everybody who is asked is listed; else only its organizer and I. */
  listsAll: z.boolean(),
  myReply: reply.nullable(),
  /** My own category and reminders. */
  categoryId: z.int().nullable(),
  reminders: z.array(reminder),
  attachments: z.array(attachment),
  /** What a clock change makes of the times, in sentences; empty for ordinary times. */
  clockNotes: z.array(z.string()),
});
export type EventDetail = z.output<typeof eventDetail>;

/** A change as it is taken back: the event, and the version that the change made. */
const change = z.strictObject({ id: z.uuid(), version: z.int() });

/** An event after something was done to it; with what takes that back, where something was changed. */
export const changedEvent = eventDetail.extend({ undo: change.optional() });
export type ChangedEvent = z.output<typeof changedEvent>;

/** What is made: a booking for somebody else by whoever looks after places names its places' bookings. */
export const madeEvent = eventDetail.extend({
  bookings: z.array(z.strictObject({ id: z.string(), start: z.int() })).optional(),
  /** Events that were moved to make room, each with what takes that back. */
  moved: z.array(change).optional(),
});
export type MadeEvent = z.output<typeof madeEvent>;

/** Whoever or whatever holds a resource that was asked for, as far as the asker may know. */
export const takenResource = z.strictObject({
  resourceId: z.int(),
  name: z.string(),
  start: z.int(),
  end: z.int(),
  /** Null when the asker may not know. */
  title: z.string().nullable(),
  holder: z.string().nullable(),
  /** Where they can be written to, where it is shown who they are. */
  holderEmail: z.string().optional(),
  /** Why it is out of use, where that is what stands in the way. */
  outOfUse: z.string().optional(),
});
export type TakenResource = z.output<typeof takenResource>;

/** One thing that would do instead of what was refused. */
export const offeredAlternative = z.union([
  z.strictObject({
    kind: z.literal('resource'),
    instead: z.int(),
    resourceId: z.int(),
    name: z.string(),
    seats: z.int(),
    floor: z.string(),
  }),
  z.strictObject({
    kind: z.literal('time'),
    resourceId: z.int(),
    name: z.string(),
    start: z.int(),
    end: z.int(),
  }),
]);
export type OfferedAlternative = z.output<typeof offeredAlternative>;

/** A date of a series on which something that was asked for is taken. */
export const takenDate = z.strictObject({
  at: z.string(),
  start: z.int(),
  end: z.int(),
  taken: z.array(takenResource),
  alternatives: z.array(offeredAlternative),
});
export type TakenDate = z.output<typeof takenDate>;
