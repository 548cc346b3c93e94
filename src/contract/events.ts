import { z } from 'zod';
import { instant, line, mailAddress, requiredLine, subjectId, wallTime, zone } from './common.ts';

export const TITLE_MOST = 200;
export const DESCRIPTION_MOST = 20_000;

const eventTimes = z.strictObject({
  startsAt: wallTime,
  endsAt: wallTime,
  zone,
  /** Which one is meant where a clock change repeats the start. */
  fold: z.enum(['earlier', 'later'], { error: 'must be "earlier" or "later"' }).default('earlier'),
  /** Whole days: both times are then midnights, the end not belonging to it. */
  allDay: z.boolean().default(false),
});
export type EventTimes = z.infer<typeof eventTimes>;

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

const resourceIds = z
  .array(subjectId, { error: 'must be a list of ids' })
  .max(50, 'may name at most 50 resources')
  .refine((ids) => new Set(ids).size === ids.length, 'must not name a resource twice');

const details = {
  title: requiredLine(TITLE_MOST),
  description: z
    .string({ error: 'must be text' })
    .max(DESCRIPTION_MOST, `may be at most ${DESCRIPTION_MOST} characters long`),
  place: line(200),
  showsAs: z.enum(['busy', 'tentative', 'away', 'free'], {
    error: 'must be "busy", "tentative", "away" or "free"',
  }),
  visibility: z.enum(['default', 'public', 'private'], {
    error: 'must be "default", "public" or "private"',
  }),
};

const message = line(2000);

export const createEventRequest = z.strictObject({
  title: details.title,
  description: details.description.default(''),
  place: details.place.default(''),
  showsAs: details.showsAs.default('busy'),
  visibility: details.visibility.default('default'),
  times: eventTimes,
  attendees: z
    .array(invitee, { error: 'must be a list' })
    .max(500, 'may name at most 500 people')
    .default([]),
  resources: resourceIds.default([]),
  /** Whether invitations are mailed now. */
  send: z.boolean().default(true),
  message: message.default(''),
});
export type CreateEventRequest = z.input<typeof createEventRequest>;
export type NewEvent = z.output<typeof createEventRequest>;

const version = z.number({ error: 'must be the version you have read' }).int().positive();
const tell = z.enum(['everyone', 'nobody'], { error: 'must be "everyone" or "nobody"' });

export const changeEventRequest = z.strictObject({
  version,
  title: details.title.optional(),
  description: details.description.optional(),
  place: details.place.optional(),
  showsAs: details.showsAs.optional(),
  visibility: details.visibility.optional(),
  times: eventTimes.optional(),
  resources: resourceIds.optional(),
  tell: tell.default('everyone'),
  message: message.default(''),
});
export type ChangeEventRequest = z.input<typeof changeEventRequest>;
export type EventChange = z.output<typeof changeEventRequest>;

export const cancelEventRequest = z.strictObject({
  version,
  tell: tell.default('everyone'),
  message: message.default(''),
});
export type CancelEventRequest = z.input<typeof cancelEventRequest>;

export const calendarQuery = z
  .strictObject({ from: z.coerce.number().pipe(instant), to: z.coerce.number().pipe(instant) })
  .refine(({ from, to }) => from < to, { path: ['to'], message: 'must be later than "from"' })
  .refine(({ from, to }) => to - from <= 400 * 24 * 3_600_000, {
    path: ['to'],
    message: 'may be at most 400 days after "from"',
  });

export const eventPath = z.strictObject({ id: z.uuid('must be the id of an event') });

export type Reply = 'needs-action' | 'accepted' | 'tentative' | 'declined';

/** One occurrence as it stands in a person's calendar. */
export interface CalendarItem {
  eventId: string;
  occurrenceId: number;
  title: string;
  place: string;
  start: number;
  end: number;
  allDay: boolean;
  occupancy: 'busy' | 'tentative' | 'away' | 'free';
  /** My own reply, or `organizer` where the event is mine. */
  standing: Reply | 'organizer';
  organizer: string;
  attendeeCount: number;
  resources: string[];
  recurring: boolean;
}

export interface EventAttendee {
  personId: number | null;
  name: string;
  email: string;
  role: 'organizer' | 'required' | 'optional';
  reply: Reply;
  note: string;
  invitedAt: number;
  repliedAt: number | null;
}

export interface EventDetail {
  id: string;
  uid: string;
  sequence: number;
  version: number;
  title: string;
  description: string;
  place: string;
  start: number;
  end: number;
  startsAt: string;
  endsAt: string;
  zone: string;
  fold: 'earlier' | 'later';
  allDay: boolean;
  showsAs: 'busy' | 'tentative' | 'away' | 'free';
  visibility: 'default' | 'public' | 'private';
  status: 'confirmed' | 'cancelled';
  recurring: boolean;
  organizer: { id: number; name: string };
  attendees: EventAttendee[];
  resources: { id: number; name: string; site: string; seats: number }[];
  canChange: boolean;
  myReply: Reply | null;
  /** What a clock change makes of the times, in sentences; empty for ordinary times. */
  notes: string[];
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
