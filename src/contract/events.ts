import { bookingNote } from './bookings.ts';
import { USUAL_RIGHTS, type InviteeRights } from '../core/meetings/rights.ts';
import { z } from 'zod';
import { type Proposal } from '../core/meetings/meeting.ts';
import { parseRule } from '../core/recurrence/rule.ts';
import {
  line,
  mailAddress,
  plainText,
  requiredLine,
  subjectId,
  text,
  versionRead,
  wallTime,
  zone,
} from './common.ts';

export const TITLE_MOST = 200;
export const DESCRIPTION_MOST = 20_000;
export const MOST_EXCEPTIONS = 500;

const eventTimes = z.strictObject({
  startsAt: wallTime,
  endsAt: wallTime,
  zone,
  /** The zone in which `endsAt` is read, where it is another one. */
  endZone: zone.nullish().transform((value) => value ?? null),
  /** Which one is meant where a clock change repeats the start. */
  fold: z.enum(['earlier', 'later'], { error: 'must be "earlier" or "later"' }).default('earlier'),
  /** Whole days: both times are then midnights, the end not belonging to it. */
  allDay: z.boolean().default(false),
});

/** How an event repeats: a rule, and occurrences of it that are left out. */
const repeats = z.strictObject({
  rule: z
    .string({ error: 'must be a rule such as FREQ=WEEKLY;BYDAY=TU' })
    .max(500, 'may be at most 500 characters long')
    .superRefine((text, ctx) => {
      try {
        parseRule(text);
      } catch (error) {
        ctx.addIssue({ code: 'custom', message: (error as Error).message });
      }
    }),
  except: z
    .array(wallTime, { error: 'must be a list of local times' })
    .max(
      MOST_EXCEPTIONS,
      `may leave out at most ${MOST_EXCEPTIONS} dates; end the series or change its rule`,
    )
    .default([]),
});
export type Repeats = z.output<typeof repeats>;

export const recurrenceId = wallTime;

/** What to do about a date of a series on which a resource is taken. */
const dateChoice = z.discriminatedUnion(
  'do',
  [
    z.strictObject({ do: z.literal('leave-out'), at: recurrenceId }),
    z.strictObject({ do: z.literal('without'), at: recurrenceId, resourceId: subjectId }),
    z.strictObject({
      do: z.literal('instead'),
      at: recurrenceId,
      resourceId: subjectId,
      instead: subjectId,
    }),
    z.strictObject({
      do: z.literal('move'),
      at: recurrenceId,
      startsAt: wallTime,
      endsAt: wallTime,
    }),
  ],
  { error: 'must have "do" as "leave-out", "without", "instead" or "move"' },
);
export type DateChoice = z.output<typeof dateChoice>;
const dates = z
  .array(dateChoice, { error: 'must be a list' })
  .max(MOST_EXCEPTIONS, `may name at most ${MOST_EXCEPTIONS} dates`)
  .default([]);

const reminder = z.strictObject({
  minutes: z
    .number({ error: 'must be a number of minutes' })
    .int('must be whole minutes')
    .min(0, 'must not be after the start')
    .max(40_320, 'may be at most 28 days before'),
  means: z.enum(['popup', 'mail'], { error: 'must be "popup" or "mail"' }),
});
export const reminderList = z
  .array(reminder, { error: 'must be a list' })
  .max(5, 'may name at most 5 reminders')
  .refine(
    (list) => new Set(list.map(({ minutes, means }) => `${minutes} ${means}`)).size === list.length,
    'must not name a reminder twice',
  );
export type Reminder = z.infer<typeof reminder>;

const attendeeRole = z.enum(['required', 'optional'], {
  error: 'must be "required" or "optional"',
});

const invitee = z.union(
  [
    z.strictObject({ personId: subjectId, role: attendeeRole }),
    z.strictObject({ email: mailAddress, name: line(120).default(''), role: attendeeRole }),
  ],
  { error: 'must name a person by "personId" or an outside address by "email", with a "role"' },
);
export type Invitee = z.infer<typeof invitee>;

export const invitees = z
  .array(invitee, { error: 'must be a list' })
  .max(500, 'may name at most 500 people');

const resourceIds = z
  .array(subjectId, { error: 'must be a list of ids' })
  .max(50, 'may name at most 50 resources')
  .refine((ids) => new Set(ids).size === ids.length, 'must not name a resource twice');

/** HTML of a few kinds of element; the rest is taken out by the server. */
const richText = plainText(DESCRIPTION_MOST);

const details = {
  title: requiredLine(TITLE_MOST),
  description: richText,
  agenda: richText,
  notes: richText,
  place: line(200),
  showsAs: z.enum(['busy', 'tentative', 'away', 'free'], {
    error: 'must be "busy", "tentative", "away" or "free"',
  }),
  visibility: z.enum(['default', 'public', 'private'], {
    error: 'must be "default", "public" or "private"',
  }),
};

export const message = text(2000);

const allowed = z.boolean({ error: 'must be true or false' });
const inviteeRights = z.strictObject({
  /** They may change it as its organizer does, but not cancel it. */
  change: allowed.default(false),
  /** They may ask others as well. */
  invite: allowed.default(false),
  /** They see who else is asked. */
  list: allowed.default(true),
  /** People outside see how many of the others are free. */
  count: allowed.default(false),
});

export const tell = z.enum(['everyone', 'nobody'], { error: 'must be "everyone" or "nobody"' });

const MOST_TOGETHER = 5;

/** An event of mine that is moved to make room, with what is made then: both, or neither. */
const makingRoom = z.strictObject({
  eventId: z.uuid('must be the id of an event'),
  version: versionRead,
  /** The one date of a series that is moved. */
  occurrence: recurrenceId.optional(),
  times: eventTimes,
  tell: tell.default('everyone'),
  message: message.default(''),
});

export const createEventRequest = z.strictObject({
  title: details.title,
  description: details.description.default(''),
  agenda: details.agenda.default(''),
  notes: details.notes.default(''),
  place: details.place.default(''),
  showsAs: details.showsAs.default('busy'),
  visibility: details.visibility.default('default'),
  rights: inviteeRights.default(USUAL_RIGHTS),
  times: eventTimes,
  repeats: repeats.nullish().transform((value) => value ?? null),
  /** What to do about dates on which a resource is taken, as a refusal named them. */
  dates,
  categoryId: subjectId.nullish().transform((value) => value ?? null),
  /** My own; what my preferences say where they are not given. */
  reminders: reminderList.optional(),
  attendees: invitees.default([]),
  resources: resourceIds.default([]),
  /**
   * Somebody for whom I act, whose event it is; or, where I look after places and it is nothing but a
   * booking, anybody of my organization. Without it, it is mine.
   */
  for: subjectId.optional(),
  /** Events of mine that are moved with it, in the same transaction. */
  moving: z
    .array(makingRoom, { error: 'must be a list' })
    .max(MOST_TOGETHER, `may move at most ${MOST_TOGETHER} events`)
    .default([]),
  /** Whether invitations are mailed now. */
  send: z.boolean().default(true),
  /** A draft is not sent yet and seen by nobody else; whether it holds its time and places meanwhile. */
  draft: z
    .strictObject({ holds: allowed.default(false) })
    .nullish()
    .transform((value) => value ?? null),
  message: message.default(''),
  /** What those who look after its places read, and nobody else. */
  forStewards: bookingNote.optional(),
});
export type CreateEventRequest = z.input<typeof createEventRequest>;
export type NewEvent = z.output<typeof createEventRequest>;

/** Of a change of people, those concerned are the added and the removed. */
const told = z.enum(['everyone', 'concerned', 'nobody'], {
  error: 'must be "everyone", "concerned" or "nobody"',
});
export type Told = z.output<typeof told>;

/** Which part of a series is meant; `occurrence` names the one, by its place in the rule. */
const part = {
  scope: z
    .enum(['one', 'following', 'all'], { error: 'must be "one", "following" or "all"' })
    .default('all'),
  occurrence: recurrenceId.optional(),
};
export type Scope = 'one' | 'following' | 'all';

export const changeEventRequest = z.strictObject({
  version: versionRead,
  ...part,
  title: details.title.optional(),
  description: details.description.optional(),
  agenda: details.agenda.optional(),
  notes: details.notes.optional(),
  place: details.place.optional(),
  showsAs: details.showsAs.optional(),
  visibility: details.visibility.optional(),
  /** What those who are invited may do; the organizer's alone to change. */
  rights: inviteeRights.optional(),
  /** Of the named occurrence, the others following; without one, of the first. */
  times: eventTimes.optional(),
  /** A rule makes it a series; null makes a series a single event. */
  repeats: repeats.nullable().optional(),
  dates,
  resources: resourceIds.optional(),
  /** Exactly those who are invited from now on, besides the organizer. */
  attendees: invitees.optional(),
  /** Whether a draft holds its time and places. */
  holds: allowed.optional(),
  tell: told.default('everyone'),
  message: message.default(''),
});
export type ChangeEventRequest = z.input<typeof changeEventRequest>;
export type EventChange = z.output<typeof changeEventRequest>;

export const cancelEventRequest = z.strictObject({
  version: versionRead,
  ...part,
  tell: tell.default('everyone'),
  message: message.default(''),
  /** Changes of other events that are taken back with it, each by the version that it made. */
  takeBack: z
    .array(z.strictObject({ id: z.uuid('must be the id of an event'), version: versionRead }), {
      error: 'must be a list',
    })
    .max(MOST_TOGETHER, `may take back at most ${MOST_TOGETHER} changes`)
    .default([]),
});
export type CancelEventRequest = z.input<typeof cancelEventRequest>;
export type Cancellation = z.output<typeof cancelEventRequest>;

export const sendEventRequest = z.strictObject({
  version: versionRead,
  message: message.default(''),
});
export type SendEventRequest = z.input<typeof sendEventRequest>;

export const restoreEventRequest = z.strictObject({
  version: versionRead,
  /** The cancelled occurrence that is meant; without one, the event itself. */
  occurrence: recurrenceId.optional(),
  tell: tell.default('everyone'),
  message: message.default(''),
});
export type RestoreEventRequest = z.input<typeof restoreEventRequest>;

export type RestoreEvent = z.output<typeof restoreEventRequest>;

export const undoEventRequest = z.strictObject({
  version: versionRead,
  /** The version that the change made which is taken back; without it, the latest change is. */
  change: versionRead.optional(),
  tell: told.default('everyone'),
});
export type UndoEventRequest = z.input<typeof undoEventRequest>;

/** Changes of so many events are taken back together. */
const MOST_UNDONE = 200;

/** Takes changes of several events back together: what they left behind, in the order they were made. */
export const undoTogetherRequest = z.strictObject({
  changes: z
    .array(z.strictObject({ id: z.uuid('must be the id of an event'), version: versionRead }), {
      error: 'must be a list of changes',
    })
    .max(MOST_UNDONE, `may name at most ${MOST_UNDONE} changes`)
    .refine((all) => new Set(all.map((one) => one.id)).size === all.length, {
      message: 'must name each event once',
    }),
});
export type UndoTogetherRequest = z.input<typeof undoTogetherRequest>;

export interface UndoneTogether {
  undone: number;
  /** Those that stay, since all they touched has been changed again, or they are taken back already. */
  left: number;
}

export const myPartRequest = z.strictObject({
  categoryId: subjectId.nullable().optional(),
  reminders: reminderList.optional(),
});
export type MyPartRequest = z.input<typeof myPartRequest>;

export const eventQuery = z.strictObject({ occurrence: recurrenceId.optional() });

export const eventPath = z.strictObject({ id: z.uuid('must be the id of an event') });

export type Reply = 'needs-action' | 'accepted' | 'tentative' | 'declined';

/** One occurrence as it stands in a person's calendar. */
export interface CalendarItem {
  eventId: string;
  occurrenceId: number;
  /** The wall time that names it within its series; null for a single event. */
  recurrenceId: string | null;
  version: number;
  title: string;
  place: string;
  start: number;
  end: number;
  allDay: boolean;
  /** Whether it is not sent yet, and seen by nobody else. */
  draft: boolean;
  /** The event's own zone, and that of its end where it is another. */
  zone: string;
  endZone: string | null;
  occupancy: 'busy' | 'tentative' | 'away' | 'free';
  /** My own reply, or `organizer` where the event is mine. */
  standing: Reply | 'organizer';
  organizer: string;
  attendeeCount: number;
  resources: string[];
  categoryId: number | null;
}

export interface EventAttendee {
  /** The attendee's own number within the installation. */
  id: number;
  personId: number | null;
  name: string;
  email: string;
  role: 'organizer' | 'required' | 'optional';
  reply: Reply;
  note: string;
  invitedAt: number;
  repliedAt: number | null;
  /** When they were last reminded to answer. */
  nudgedAt: number | null;
  /** Other times they ask for; of others only where I may change it. */
  proposals: Proposal[];
  /** Why the last letter to them did not reach them; null as far as is known that it did. */
  undelivered: string | null;
}

/** What is made: a booking for somebody else by whoever looks after places names its places' bookings. */
export interface MadeEvent extends EventDetail {
  bookings?: { id: string; start: number }[];
}

export interface EventDetail {
  id: string;
  uid: string;
  sequence: number;
  version: number;
  title: string;
  description: string;
  agenda: string;
  notes: string;
  place: string;
  /** Of the occurrence asked for; else of the next one. */
  start: number;
  end: number;
  startsAt: string;
  endsAt: string;
  zone: string;
  endZone: string | null;
  fold: 'earlier' | 'later';
  allDay: boolean;
  showsAs: 'busy' | 'tentative' | 'away' | 'free';
  visibility: 'default' | 'public' | 'private';
  rights: InviteeRights;
  status: 'confirmed' | 'cancelled';
  /** Set while it is not sent: nobody else sees it, and `attendees` are those it will ask. */
  draft: { holds: boolean } | null;
  /** Null for a single event. */
  series: EventSeries | null;
  /** Whose id is null where they are elsewhere. */
  organizer: { id: number | null; name: string };
  attendees: EventAttendee[];
  resources: {
    id: number;
    name: string;
    site: string;
    seats: number;
    /** Whether a steward has yet to agree to it, for some date at least. */
    isAsked: boolean;
  }[];
  canChange: boolean;
  /** Whether I may cancel it and decide what others may do, as its organizer does. */
  canCancel: boolean;
  /** Whether I may ask others as well. */
  canInvite: boolean;
  /** Whether everybody who is asked is listed; else only its organizer and I. */
  listsAll: boolean;
  myReply: Reply | null;
  /** My own category and reminders. */
  categoryId: number | null;
  reminders: Reminder[];
  attachments: Attachment[];
  /** What a clock change makes of the times, in sentences; empty for ordinary times. */
  clockNotes: string[];
}

export interface EventSeries {
  rule: string;
  /** The rule in words. */
  sentence: string;
  /** Wall times of the first occurrence, in the event's zone. */
  startsAt: string;
  endsAt: string;
  allDay: boolean;
  except: string[];
  /** Occurrences that were cancelled by themselves. */
  cancelled: string[];
  /** Occurrences with something of their own. */
  changed: string[];
  /** The occurrence that this detail shows, by its place in the rule. */
  recurrenceId: string | null;
}

export interface Attachment {
  id: string;
  name: string;
  type: string;
  /** Bytes. */
  size: number;
  addedBy: string;
  addedAt: number;
}

/** A date of a series on which something that was asked for is taken. */
export interface TakenDate {
  at: string;
  start: number;
  end: number;
  taken: TakenResource[];
  waysOut: WayOut[];
}

/** Whoever or whatever holds a resource that was asked for, as far as the asker may know. */
export interface TakenResource {
  resourceId: number;
  name: string;
  start: number;
  end: number;
  /** Null when the asker may not know. */
  title: string | null;
  holder: string | null;
  /** Why it is out of use, where that is what stands in the way. */
  outOfUse?: string;
}

/** One thing that would do instead of what was refused. */
export type WayOut =
  | {
      kind: 'resource';
      instead: number;
      resourceId: number;
      name: string;
      seats: number;
      floor: string;
    }
  | { kind: 'time'; resourceId: number; name: string; start: number; end: number };
