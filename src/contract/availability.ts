import { z } from 'zod';
import type { BusyState } from '../core/availability/busy.ts';
import type { BookingTerms } from '../core/booking/terms.ts';
import type { Holiday } from '../core/planner/lineUp.ts';
import type { RoomTimes } from '../core/planner/rooms.ts';
import type { PastMeeting } from '../core/planner/wishes.ts';
import type { Shift } from '../core/time/workingHours.ts';
import { instant, line, subjectId, wallTime, zone, idSet } from './common.ts';

const MOST_SUBJECTS = 2000;
const LONGEST_WINDOW_MS = 200 * 24 * 3_600_000;

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
export type BusySpan = [start: number, end: number, occupancy: BusyState];

export interface SubjectBusy {
  id: number;
  kind: 'person' | 'resource';
  name: string;
  /** City of the site and, for resources, seats; what a lane says beside the name. */
  detail: string;
  zone: string;
  /** Monday first; null where there are no hours of its own. */
  hours: Shift[][] | null;
  siteId: number | null;
  floor: string;
  /** Days off at the site of a person that touch the window. */
  holidays: Holiday[];
  /** `none`: nothing is shared with the asker or published, which does not mean free. */
  knowledge: 'known' | 'none';
  /** Of people whose organization publishes their times: when those were read. */
  published: { readAt: number | null; failing: boolean } | null;
  isRoom: boolean;
  /** Seats of a room; null for people and for things without seats. */
  seats: number | null;
  email: string | null;
  /**
   * Of a resource: when no meeting can have it, preparing and clearing included; `barred` where the asker
   * cannot book it by its rules.
   */
  busy: BusySpan[];
  /**
   * Of a resource of several units: where a meeting that begins before `end` and ends after `start`, which
   * is not before it, would have to change units.
   */
  changeovers: [start: number, end: number][];
  /** Of a resource: what its rules ask of the asker's bookings besides; null where nothing. */
  terms: BookingTerms | null;
}

export interface BusyResponse {
  subjects: SubjectBusy[];
}

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
export interface RoomsResponse {
  rooms: RoomTimes[];
}

export const movableRequest = z
  .strictObject(window)
  .refine(inOrder, orderProblem)
  .refine(notTooLong, lengthProblem);
export type MovableRequest = z.infer<typeof movableRequest>;

/** A meeting to come that the asker organizes and could move. */
export interface MovableMeeting {
  eventId: string;
  recurrenceId: string | null;
  version: number;
  title: string;
  zone: string;
  start: number;
  end: number;
  /** People who did not decline, the organizer among them, by role. */
  people: { id: number; role: 'required' | 'optional' }[];
  resources: number[];
  /** Outside addresses, of whose time nothing is known. */
  outsiders: number;
}

export interface MovableResponse {
  meetings: MovableMeeting[];
  subjects: SubjectBusy[];
}

export const historyRequest = z.strictObject({
  people: idSet(0, MOST_SUBJECTS, 'people'),
});

/** The last meetings of the asker with much the same people, the most recent first. */
export interface HistoryResponse {
  meetings: PastMeeting[];
}

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

export interface OpeningsResponse {
  count: number;
  openings: {
    start: number;
    end: number;
    score: number;
    reasons: string[];
    /** Rooms picked with the time, by site. */
    rooms: number[];
  }[];
  /** Why there is none, in words; null where there is one. */
  why: string | null;
}
