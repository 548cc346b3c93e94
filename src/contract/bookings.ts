import { z } from 'zod';
import type { Price } from '../core/booking/rules.ts';
import type { ReservationState } from '../core/booking/presence.ts';
import type { WallTime } from '../core/time/wall.ts';
import { line, subjectId, text, wallTime, versionRead } from './common.ts';

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
export interface MyBooking {
  eventId: string;
  occurrence: WallTime | null;
  placeId: number;
  place: string;
  site: string;
  zone: string;
  title: string;
  /** Its own time. Epoch milliseconds, half-open. */
  start: number;
  end: number;
  state: ReservationState;
  usedAt: number | null;
  leftAt: number | null;
  /** From when one can check in. */
  from: number;
  /** When it is given to others unless somebody checks in. */
  givenUpAt: number;
}

export interface MyBookingsResponse {
  /** From now on through the next hours, the earliest first. */
  bookings: MyBooking[];
}

/** How somebody's being there stands after they checked in or out. */
export interface PresenceResponse {
  state: ReservationState;
  usedAt: number | null;
  leftAt: number | null;
}

/** What waits for a steward's agreement: one meeting's wish for one place. */
export interface PlaceRequest {
  eventId: string;
  placeId: number;
  /** Of what is asked for, by which it is decided. */
  version: number;
  place: string;
  site: string;
  zone: string;
  /** Who asks. */
  holder: string;
  /** Null where it is not shared with whoever asks. */
  title: string | null;
  /** The first of its dates to come, and how many there are. Epoch milliseconds, half-open. */
  start: number;
  end: number;
  dates: number;
  askedAt: number;
  /** When it is over without an answer. */
  decidedBy: number;
  price: Price | null;
}

export interface PlaceRequestsResponse {
  /** Those that end first, first; as many as are shown. */
  requests: PlaceRequest[];
  total: number;
}

/** What those who look after places are told of a booking, and nobody else. */
export const bookingNote = z.strictObject({
  note: text(1000).default(''),
  /** Whom to ask about it: a number, a name. */
  contact: line(120).default(''),
});
export type BookingNote = z.output<typeof bookingNote>;
export const bookingPath = z.strictObject({ id: z.uuid('must be the id of an event') });
