import { z } from 'zod';
import { line, subjectId, text, wallTime, versionRead } from './common.ts';
import { reservationState, price } from './values.ts';
import { defineRoutes } from './route.ts';

/** A meeting, a date of it where it is a series, and one of its places. */
const whichBooking = {
  eventId: z.uuid('must be the id of an event'),
  occurrence: wallTime.nullable().default(null),
  placeId: subjectId,
};

/** Somebody is there, or leaves. */
export const presenceRequest = z.strictObject(whichBooking);
export type PresenceRequest = z.input<typeof presenceRequest>;

/** A steward agrees to what a meeting asked for of a place, on all its dates, or does not. */
export const decideRequest = z.strictObject({
  eventId: whichBooking.eventId,
  placeId: subjectId,
  /** Of what was read: nobody agrees to what they have not seen. */
  version: versionRead,
  agreed: z.boolean({ error: 'must be true or false' }),
  message: text(1000).default(''),
});
export type DecideRequest = z.input<typeof decideRequest>;

/** A booking of mine that somebody is to check in to, or is there. */
export const myBooking = z.strictObject({
  eventId: z.uuid(),
  occurrence: z.string().nullable(),
  placeId: z.int(),
  place: z.string(),
  site: z.string(),
  zone: z.string(),
  title: z.string(),
  /** Its own time. Epoch milliseconds, half-open. */
  start: z.int(),
  end: z.int(),
  state: reservationState,
  usedAt: z.int().nullable(),
  leftAt: z.int().nullable(),
  /** From when one can check in. */
  from: z.int(),
  /** When it is given to others unless somebody checks in. */
  givenUpAt: z.int(),
});
export type MyBooking = z.output<typeof myBooking>;

export const myBookingsResponse = z.strictObject({
  /** From now on through the next hours, the earliest first. */
  bookings: z.array(myBooking),
});
export type MyBookingsResponse = z.output<typeof myBookingsResponse>;

/** How somebody's being there stands after they checked in or out. */
export const presenceResponse = z.strictObject({
  state: reservationState,
  usedAt: z.int().nullable(),
  leftAt: z.int().nullable(),
});
export type PresenceResponse = z.output<typeof presenceResponse>;

/** What waits for a steward's agreement: one meeting's wish for one place. */
export const placeRequest = z.strictObject({
  eventId: z.uuid(),
  placeId: z.int(),
  /** Of what is asked for, by which it is decided. */
  version: z.int(),
  place: z.string(),
  site: z.string(),
  zone: z.string(),
  /** Who asks. */
  holder: z.string(),
  /** Null where it is not shared with whoever asks. */
  title: z.string().nullable(),
  /** The first of its dates to come, and how many there are. Epoch milliseconds, half-open. */
  start: z.int(),
  end: z.int(),
  dates: z.int(),
  askedAt: z.int(),
  /** When it is over without an answer. */
  decidedBy: z.int(),
  price: price.nullable(),
});
export type PlaceRequest = z.output<typeof placeRequest>;

export const placeRequestsResponse = z.strictObject({
  /** Those that end first, first; as many as are shown. */
  requests: z.array(placeRequest),
  total: z.int(),
});
export type PlaceRequestsResponse = z.output<typeof placeRequestsResponse>;

/** What those who look after places are told of a booking, and nobody else. */
export const bookingNote = z.strictObject({
  note: text(1000).default(''),
  /** Whom to ask about it: a number, a name. */
  contact: line(120).default(''),
});
export type BookingNote = z.output<typeof bookingNote>;
export const bookingPath = z.strictObject({ id: z.uuid('must be the id of an event') });

/** Of how many dates it was decided. */
const decideResponse = z.strictObject({ dates: z.int() });

/** /api/bookings: being there, what a steward has to agree to, and what they are told. */
export const bookingsRoutes = defineRoutes({
  'GET /api/bookings/mine': { may: 'read own', answer: myBookingsResponse, replica: true },
  'POST /api/bookings/check-in': {
    may: 'use booking',
    body: presenceRequest,
    answer: presenceResponse,
  },
  'POST /api/bookings/check-out': {
    may: 'use booking',
    body: presenceRequest,
    answer: presenceResponse,
  },
  'GET /api/bookings/requests': {
    may: 'look-after places',
    answer: placeRequestsResponse,
    replica: true,
  },
  'POST /api/bookings/requests/decide': {
    may: 'look-after places',
    body: decideRequest,
    answer: decideResponse,
  },
  'GET /api/bookings/contact': {
    may: 'read own',
    answer: z.strictObject({ contact: z.string() }),
    replica: true,
  },
  'GET /api/bookings/notes/:id': {
    may: 'read shared',
    params: bookingPath,
    answer: bookingNote,
    replica: true,
  },
  'PUT /api/bookings/notes/:id': {
    may: 'change shared',
    params: bookingPath,
    body: bookingNote,
    answer: bookingNote,
  },
});
