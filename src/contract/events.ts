import { z } from 'zod';
import { bookingNote } from './bookings.ts';
import { USUAL_RIGHTS } from '../core/meetings/rights.ts';
import { subjectId, versionRead } from './common.ts';
import {
  allowed,
  dates,
  changedFields,
  newFields,
  eventTimes,
  inviteeRights,
  invitees,
  message,
  recurrenceId,
  reminderList,
  repeats,
  resourceIds,
  tell,
} from './eventParts.ts';
import { nudgeRequest, resendRequest, inviteRequest, declineProposalRequest } from './asking.ts';
import { madeEvent, eventDetail, changedEvent } from './eventDetail.ts';
import { defineRoutes } from './route.ts';
import { MOST_MADE_TOGETHER, MOST_UNDONE } from './limits.ts';

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
  ...newFields,
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
    .max(MOST_MADE_TOGETHER, `may move at most ${MOST_MADE_TOGETHER} events`)
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
export type NotifyScope = z.output<typeof told>;

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
  ...changedFields,
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
    .max(MOST_MADE_TOGETHER, `may take back at most ${MOST_MADE_TOGETHER} changes`)
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

export const undoneTogether = z.strictObject({
  undone: z.int(),
  /** Of those, where something stays that was changed since. */
  partly: z.int(),
  /** Those that stay, since all they touched has been changed again, or they are taken back already. */
  left: z.int(),
});
export type UndoneTogether = z.output<typeof undoneTogether>;

export const myPartRequest = z.strictObject({
  categoryId: subjectId.nullable().optional(),
  reminders: reminderList.optional(),
});
export type MyPartRequest = z.input<typeof myPartRequest>;

export const eventQuery = z.strictObject({ occurrence: recurrenceId.optional() });

export const eventPath = z.strictObject({ id: z.uuid('must be the id of an event') });

/** /api/events: making, changing, cancelling, restoring events, and taking changes back. */
export const eventsRoutes = defineRoutes({
  'POST /api/events': {
    may: 'change own',
    body: createEventRequest,
    answer: madeEvent,
    status: 201,
  },
  'GET /api/events/:id': {
    may: 'read event',
    params: eventPath,
    query: eventQuery,
    answer: eventDetail,
    replica: true,
  },
  'PATCH /api/events/:id': {
    may: 'change event',
    params: eventPath,
    body: changeEventRequest,
    answer: changedEvent,
  },
  'PUT /api/events/:id/mine': {
    may: 'read event',
    params: eventPath,
    body: myPartRequest,
    answer: changedEvent,
  },
  'POST /api/events/:id/cancel': {
    may: 'change event',
    params: eventPath,
    body: cancelEventRequest,
    answer: changedEvent,
  },
  'POST /api/events/:id/send': {
    may: 'change event',
    params: eventPath,
    body: sendEventRequest,
    answer: changedEvent,
  },
  'POST /api/events/:id/restore': {
    may: 'change event',
    params: eventPath,
    body: restoreEventRequest,
    answer: changedEvent,
  },
  'POST /api/events/:id/undo': {
    may: 'change event',
    params: eventPath,
    body: undoEventRequest,
    answer: changedEvent,
  },
  'POST /api/events/:id/nudge': {
    may: 'change event',
    params: eventPath,
    body: nudgeRequest,
    answer: changedEvent,
  },
  'POST /api/events/:id/resend': {
    may: 'change event',
    params: eventPath,
    body: resendRequest,
    answer: changedEvent,
  },
  'POST /api/events/:id/invite': {
    may: 'change event',
    params: eventPath,
    body: inviteRequest,
    answer: changedEvent,
  },
  'POST /api/events/:id/proposals/decline': {
    may: 'change event',
    params: eventPath,
    body: declineProposalRequest,
    answer: changedEvent,
  },
});
