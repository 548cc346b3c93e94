import { z } from 'zod';
import { MOST_DISPLACED } from '../core/booking/replacing.ts';
import { DAY } from '../core/time/interval.ts';
import { idInPath, instant, requiredLine, subjectId, text, wallTime } from './common.ts';

/** A place is out of use at most so long. */
const LONGEST_DAYS = 366;

const span = { start: instant, end: instant };
/** A time that a place can be out of use. */
const inOrder = <Shape extends z.ZodType<{ start: number; end: number }>>(shape: Shape) =>
  shape
    .refine(({ start, end }) => end > start, { path: ['end'], message: 'must be after the start' })
    .refine(({ start, end }) => end - start <= LONGEST_DAYS * DAY, {
      path: ['end'],
      message: `may be at most ${LONGEST_DAYS} days after the start`,
    });

const booking = {
  eventId: z.uuid('must be the id of an event'),
  occurrence: wallTime.nullable().default(null),
};

/** When a place is to be out of use, to see what becomes of its bookings. */
export const closurePreviewQuery = inOrder(
  z.strictObject({ start: z.coerce.number().pipe(instant), end: z.coerce.number().pipe(instant) }),
);

/** What becomes of each booking in a place that cannot be had any more. */
export const closureMoves = {
  /** Bookings that go to another place, or also to another time. */
  moves: z
    .array(z.strictObject({ ...booking, placeId: subjectId, ...span }), {
      error: 'must be a list of bookings',
    })
    .max(MOST_DISPLACED, `may name at most ${MOST_DISPLACED} bookings`)
    .default([]),
  /** Bookings that go on without a place. */
  without: z
    .array(z.strictObject(booking), { error: 'must be a list of bookings' })
    .max(MOST_DISPLACED, `may name at most ${MOST_DISPLACED} bookings`)
    .default([]),
  /** Words for those who have them. */
  message: text(1000).default(''),
};

/** Takes a place out of use, with what becomes of each booking in it. */
export const closureRequest = inOrder(
  z.strictObject({
    ...span,
    reason: requiredLine(200),
    ...closureMoves,
  }),
);
export type ClosureRequest = z.input<typeof closureRequest>;

export const closurePath = z.strictObject({ id: idInPath, closure: idInPath });

/** When a place is out of use. Epoch milliseconds, half-open. */
export interface Closure {
  id: number;
  placeId: number;
  start: number;
  end: number;
  reason: string;
}

/** A booking of a place that goes out of use, and where it could go. */
export interface DisplacedBooking {
  eventId: string;
  occurrence: string | null;
  /** Its own time. */
  start: number;
  end: number;
  /** Null where it is private. */
  title: string | null;
  holder: string;
  people: number;
  /** Null where nothing else fits. */
  move: {
    placeId: number;
    place: string;
    floor: string;
    start: number;
    end: number;
    /** What of its place it goes without. */
    lacks: string[];
  } | null;
}

export interface ClosurePreview {
  bookings: DisplacedBooking[];
  /** How many there are in all; more than are dealt with at once must be fewer days. */
  total: number;
  /** What was looked for, and whether nothing better exists. */
  isBest: boolean;
}

export interface ClosureResponse {
  closure: Closure;
  /** By which each booking's change is taken back. */
  undo: { id: string; version: number }[];
  moved: number;
  without: number;
}
