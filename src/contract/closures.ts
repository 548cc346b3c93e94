import { resourceKind } from './resourceKind.ts';
import { z } from 'zod';
import { MOST_DISPLACED } from '../core/booking/replacing.ts';
import { DAY } from '../core/time/interval.ts';
import { byId, idInPath, instant, requiredLine, subjectId, text, wallTime } from './common.ts';
import { defineRoutes } from './route.ts';
import { LONGEST_CLOSURE_DAYS, MOST_OUT_OF_USE } from './limits.ts';

const span = { start: instant, end: instant };
/** A time that a place can be out of use. */
const inOrder = <Shape extends z.ZodType<{ start: number; end: number }>>(shape: Shape) =>
  shape
    .refine(({ start, end }) => end > start, { path: ['end'], message: 'must be after the start' })
    .refine(({ start, end }) => end - start <= LONGEST_CLOSURE_DAYS * DAY, {
      path: ['end'],
      message: `may be at most ${LONGEST_CLOSURE_DAYS} days after the start`,
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
export const closure = z.strictObject({
  id: z.int(),
  placeId: z.int(),
  start: z.int(),
  end: z.int(),
  reason: z.string(),
});
export type Closure = z.output<typeof closure>;

/** A booking of a place that goes out of use, and where it could go. */
export const displacedBooking = z.strictObject({
  eventId: z.uuid(),
  occurrence: z.string().nullable(),
  /** Its own time. */
  start: z.int(),
  end: z.int(),
  /** Null where it is private. */
  title: z.string().nullable(),
  holder: z.string(),
  people: z.int(),
  /** Null where nothing else fits. */
  move: z
    .strictObject({
      placeId: z.int(),
      place: z.string(),
      floor: z.string(),
      start: z.int(),
      end: z.int(),
      /** What of its place it goes without. */
      lacks: z.array(z.string()),
    })
    .nullable(),
});
export type DisplacedBooking = z.output<typeof displacedBooking>;

export const closurePreview = z.strictObject({
  bookings: z.array(displacedBooking),
  /** How many there are in all; more than are dealt with at once must be fewer days. */
  total: z.int(),
  /** What was looked for, and whether nothing better exists. */
  isBest: z.boolean(),
});
export type ClosurePreview = z.output<typeof closurePreview>;

export const closureResponse = z.strictObject({
  closure: closure,
  /** By which it is taken back, with all that was moved. */
  change: z.int(),
  moved: z.int(),
  without: z.int(),
});
export type ClosureResponse = z.output<typeof closureResponse>;

/** Takes all places of a site out of use; its bookings go on without a place. */
export const siteClosureRequest = inOrder(
  z.strictObject({
    ...span,
    reason: requiredLine(200),
    /** How many bookings stood in them as it was looked at. */
    seen: z.int().min(0),
    message: text(1000).default(''),
  }),
);
export type SiteClosureRequest = z.output<typeof siteClosureRequest>;

/** What closing a site does: how many places close, and which bookings would have none. */
export const siteClosurePreview = z.strictObject({
  places: z.int(),
  bookings: z
    .array(
      z.strictObject({
        eventId: z.uuid(),
        occurrence: z.string().nullable(),
        start: z.int(),
        end: z.int(),
        place: z.string(),
        /** Null where it is private. */
        title: z.string().nullable(),
        holder: z.string(),
        people: z.int(),
      }),
    )
    .max(MOST_DISPLACED),
  /** How many there are in all; more than are dealt with at once must be fewer days. */
  total: z.int(),
});
export type SiteClosurePreview = z.output<typeof siteClosurePreview>;

export const siteClosed = z.strictObject({
  places: z.int(),
  without: z.int(),
  /** By which it is taken back, with the bookings. */
  changes: z.array(z.int()),
});

/** A place that is retired, or a time that one is out of use. */
export const outOfUse = z.strictObject({
  placeId: z.int(),
  place: z.string(),
  kind: resourceKind,
  site: z.string(),
  zone: z.string(),
  floor: z.string(),
  /** When it was retired; null where it is not. */
  retiredAt: z.int().nullable(),
  closureId: z.int().nullable(),
  start: z.int().nullable(),
  end: z.int().nullable(),
  reason: z.string().nullable(),
});
export type OutOfUse = z.output<typeof outOfUse>;

/** What went elsewhere when a place went out of use, and would come back with it. */
export const bookingsElsewhere = z.strictObject({
  /** By which all of it is taken back; null where nobody remembers it any more. */
  change: z.int().nullable(),
  bookings: z
    .array(
      z.strictObject({
        start: z.int(),
        end: z.int(),
        /** Null where it is private. */
        title: z.string().nullable(),
        holder: z.string(),
        places: z.array(z.string()),
      }),
    )
    .max(MOST_DISPLACED),
});
export type BookingsElsewhere = z.output<typeof bookingsElsewhere>;

/** /api/places/:id/closures: places out of use, and where their bookings go. */
export const closuresRoutes = defineRoutes({
  'GET /api/places/:id/closures/preview': {
    may: 'look-after places',
    cost: 'many',
    params: byId,
    query: closurePreviewQuery,
    answer: closurePreview,
  },
  'POST /api/places/:id/closures': {
    may: 'look-after places',
    cost: 'many',
    params: byId,
    body: closureRequest,
    answer: closureResponse,
    status: 201,
  },
  'GET /api/sites/:id/closure/preview': {
    may: 'look-after places',
    cost: 'many',
    params: byId,
    query: closurePreviewQuery,
    answer: siteClosurePreview,
  },
  'POST /api/sites/:id/closure': {
    may: 'look-after places',
    cost: 'many',
    params: byId,
    body: siteClosureRequest,
    answer: siteClosed,
  },
  'GET /api/closures': {
    may: 'look-after places',
    answer: z.strictObject({ places: z.array(outOfUse).max(MOST_OUT_OF_USE), more: z.boolean() }),
  },
  'GET /api/places/:id/closures/:closure/elsewhere': {
    may: 'look-after places',
    cost: 'many',
    params: closurePath,
    answer: bookingsElsewhere,
  },
  'DELETE /api/places/:id/closures/:closure': {
    may: 'look-after places',
    params: closurePath,
    answer: z.strictObject({ closed: z.boolean(), change: z.int() }),
  },
});
