import { z } from 'zod';
import { instant, line, subjectId, wallTime, zone, idSet } from './common.ts';
import {
  busyState,
  holiday,
  week,
  bookingTerms,
  roomTimes,
  pastMeeting,
  interval,
} from './values.ts';
import { defineRoutes } from './route.ts';
import { LONGEST_WINDOW_MS, MOST_SUBJECTS } from './limits.ts';

const inOrder = ({ from, to }: { from: number; to: number }) => from < to;
const orderProblem = { path: ['to'], message: 'must be later than "from"' };
const notTooLong = ({ from, to }: { from: number; to: number }) => to - from <= LONGEST_WINDOW_MS;
const lengthProblem = { path: ['to'], message: 'may be at most 200 days after "from"' };
const window = { from: instant, to: instant };

/** An event of the asker's own that is given a new time, and so does not stand in its own way. */
const except = z
  .strictObject({
    eventId: z.uuid('must be the id of an event'),
    /** The one occurrence of a series that is meant. */
    occurrence: wallTime.optional(),
  })
  .optional();

export const busyRequest = z
  .strictObject({
    subjects: idSet(1, MOST_SUBJECTS, 'people and resources'),
    ...window,
    except,
  })
  .refine(inOrder, orderProblem)
  .refine(notTooLong, lengthProblem);
export type BusyRequest = z.infer<typeof busyRequest>;

/** Start and end in epoch milliseconds, half-open, and how the time is taken. */
const busySpan = z.tuple([z.int(), z.int(), busyState]);
export type BusySpan = z.output<typeof busySpan>;

export const subjectBusy = z.strictObject({
  id: z.int(),
  kind: z.enum(['person', 'resource']),
  name: z.string(),
  /** City of the site and, for resources, seats; what a lane says beside the name. */
  detail: z.string(),
  zone: z.string(),
  /** Monday first; null where there are no hours of its own. */
  hours: week.nullable(),
  siteId: z.int().nullable(),
  floor: z.string(),
  /** Days off at the site of a person that touch the window. */
  holidays: z.array(holiday),
  /** `none`: nothing is shared with the asker or published, which does not mean free. */
  knowledge: z.enum(['known', 'none']),
  /** Of people whose organization publishes their times: when those were read. */
  published: z
    .strictObject({
      readAt: z.int().nullable(),
      failing: z.boolean(),
    })
    .nullable(),
  isRoom: z.boolean(),
  /** Seats of a room; null for people and for things without seats. */
  seats: z.int().nullable(),
  email: z.string().nullable(),
  /**
   * Of a resource: when no meeting can have it, preparing and clearing included; `barred` where the asker
   * cannot book it by its rules.
   */
  busy: z.array(busySpan),
  /**
   * Of a resource of several units: where a meeting that begins before `end` and ends after `start`, which
   * is not before it, would have to change units.
   */
  changeovers: z.array(z.tuple([z.int(), z.int()])),
  /** Of a resource: what its rules ask of the asker's bookings besides; null where nothing. */
  terms: bookingTerms.nullable(),
});
export type SubjectBusy = z.output<typeof subjectBusy>;

export const busyResponse = z.strictObject({
  subjects: z.array(subjectBusy),
});
export type BusyResponse = z.output<typeof busyResponse>;

export const roomsRequest = z
  .strictObject({
    siteIds: idSet(0, 50, 'sites'),
    ...window,
    except,
  })
  .refine(inOrder, orderProblem)
  .refine(notTooLong, lengthProblem);
export type RoomsRequest = z.infer<typeof roomsRequest>;

/** Rooms of some sites with when they are taken, and when their rules give them to nobody like the asker. */
export const roomsResponse = z.strictObject({
  rooms: z.array(roomTimes),
});
export type RoomsResponse = z.output<typeof roomsResponse>;

export const movableRequest = z
  .strictObject(window)
  .refine(inOrder, orderProblem)
  .refine(notTooLong, lengthProblem);
export type MovableRequest = z.infer<typeof movableRequest>;

/** When no booking can have a resource, and where it would have to change units. */
const unitTimes = z.strictObject({ full: z.array(interval), changes: z.array(interval) });

/** A meeting to come that the asker organizes and could move. */
export const movableMeeting = z.strictObject({
  eventId: z.uuid(),
  recurrenceId: z.string().nullable(),
  version: z.int(),
  title: z.string(),
  zone: z.string(),
  start: z.int(),
  end: z.int(),
  /** People who did not decline, the organizer among them, by role. */
  people: z.array(
    z.strictObject({
      id: z.int(),
      role: z.enum(['required', 'optional']),
    }),
  ),
  resources: z.array(z.int()),
  /** What of the time of each of them goes without the meeting, and what comes in its place. */
  frees: z.array(z.strictObject({ id: z.int(), goes: unitTimes, comes: unitTimes })),
  /** Outside addresses, of whose time nothing is known. */
  outsiders: z.int(),
});
export type MovableMeeting = z.output<typeof movableMeeting>;

export const movableResponse = z.strictObject({
  meetings: z.array(movableMeeting),
  subjects: z.array(subjectBusy),
});
export type MovableResponse = z.output<typeof movableResponse>;

export const historyRequest = z.strictObject({
  people: idSet(0, MOST_SUBJECTS, 'people'),
});

/** The last meetings of the asker with much the same people, the most recent first. */
export const historyResponse = z.strictObject({
  meetings: z.array(pastMeeting),
});
export type HistoryResponse = z.output<typeof historyResponse>;

export const refreshRequest = z.strictObject({
  people: idSet(1, 200, 'people'),
});

/** Whoever is named twice is needed if they are needed once. */
function eachOnce<One extends { id: number; role: 'required' | 'optional' }>(
  members: readonly One[],
): One[] {
  const byId = new Map<number, One>();
  for (const one of members) if (byId.get(one.id)?.role !== 'required') byId.set(one.id, one);
  return [...byId.values()];
}

const stretch = z
  .number({ error: 'must be a number of minutes' })
  .int('must be whole minutes')
  .min(0, 'must not be negative')
  .max(720, 'may be at most 720 minutes');

export const openingsRequest = z
  .strictObject({
    lineUp: z
      .array(
        z.strictObject({
          id: subjectId,
          role: z.enum(['required', 'optional'], {
            error: 'must be "required" or "optional"',
          }),
        }),
      )
      .min(1, 'must name at least one person or resource')
      .max(MOST_SUBJECTS, `may name at most ${MOST_SUBJECTS} people and resources`)
      .transform(eachOnce),
    ...window,
    lengthMinutes: z
      .number({ error: 'must be a number of minutes' })
      .int('must be whole minutes')
      .min(5, 'must be at least 5 minutes')
      .max(7 * 24 * 60, 'may be at most 7 days'),
    rule: z
      .enum(['required', 'everyone'], { error: 'must be "required" or "everyone"' })
      .default('required'),
    places: z
      .enum(['listed', 'fitting', 'ignored'], {
        error: 'must be "listed", "fitting" or "ignored"',
      })
      .default('listed'),
    features: z.array(line(60)).max(20, 'may name at most 20 features').default([]),
    /** How long from now it begins at the earliest; two hours as soon as others are asked. */
    leadMinutes: z
      .number({ error: 'must be a number of minutes' })
      .int('must be whole minutes')
      .min(0, 'must not be negative')
      .max(30 * 24 * 60, 'may be at most 30 days')
      .optional(),
    stretchMinutes: stretch.default(60),
    stretches: z
      .record(zone, z.strictObject({ early: stretch.default(0), late: stretch.default(0) }))
      .default({}),
    tentativeIsFree: z.boolean({ error: 'must be true or false' }).default(false),
    unknown: z.enum(['busy', 'ignored'], { error: 'must be "busy" or "ignored"' }).default('busy'),
    leastBad: z.boolean({ error: 'must be true or false' }).default(false),
    limit: z.number().int().min(1).max(50, 'may be at most 50').default(8),
  })
  .refine(inOrder, orderProblem)
  .refine(notTooLong, lengthProblem);
export type OpeningsRequest = z.infer<typeof openingsRequest>;

export const openingsResponse = z.strictObject({
  count: z.int(),
  openings: z.array(
    z.strictObject({
      start: z.int(),
      end: z.int(),
      score: z.number(),
      reasons: z.array(z.string()),
      /** Rooms picked with the time, by site. */
      rooms: z.array(z.int()),
    }),
  ),
  /** Why there is none, in words; null where there is one. */
  why: z.string().nullable(),
});
export type OpeningsResponse = z.output<typeof openingsResponse>;

/** How many of those who publish their times were read anew, and how many could not be. */
const refreshResponse = z.strictObject({ read: z.int(), failed: z.int() });

/** /api/availability: busy times, rooms, meetings that could make room, those of the past, and openings.
 * All of them read, though sent by POST. */
export const availabilityRoutes = defineRoutes({
  'POST /api/availability/busy': {
    may: 'read shared',
    body: busyRequest,
    answer: busyResponse,
    transaction: false,
    replica: true,
  },
  'POST /api/availability/rooms': {
    may: 'read catalogue',
    body: roomsRequest,
    answer: roomsResponse,
    transaction: false,
    replica: true,
  },
  'POST /api/availability/movable': {
    may: 'read own',
    body: movableRequest,
    answer: movableResponse,
    transaction: false,
    replica: true,
  },
  'POST /api/availability/history': {
    may: 'read own',
    body: historyRequest,
    answer: historyResponse,
    transaction: false,
    replica: true,
  },
  'POST /api/availability/refresh': {
    may: 'read shared',
    cost: 'many',
    body: refreshRequest,
    answer: refreshResponse,
    transaction: false,
  },
  'POST /api/availability/openings': {
    may: 'read shared',
    cost: 'many',
    body: openingsRequest,
    answer: openingsResponse,
    transaction: false,
    replica: true,
  },
});
