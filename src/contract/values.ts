/* Values of core as they travel in answers, each held to the type that core gives it. */
import { z } from 'zod';
import { BUSY_STATES, OCCUPANCIES } from '../core/availability/busy.ts';
import type { FindCondition } from '../core/booking/finding.ts';
import { RESERVATION_STATES } from '../core/booking/presence.ts';
import type { PlaceRules, Price } from '../core/booking/rules.ts';
import type { BookingTerms } from '../core/booking/terms.ts';
import { MEETING_FACT_KINDS } from '../core/meetings/meetingFacts.ts';
import type { Proposal } from '../core/meetings/meeting.ts';
import { DELIVERY_PREFERENCES, NOTICE_KINDS } from '../core/meetings/notices.ts';
import type { InviteeRights } from '../core/meetings/rights.ts';
import { FIT_STATES } from '../core/planner/fit.ts';
import type { RoomTimes } from '../core/planner/rooms.ts';
import type { PastMeeting } from '../core/planner/wishes.ts';
import type { Interval } from '../core/time/interval.ts';
import type { Holiday, Shift } from '../core/time/workingHours.ts';

/** A span of epoch milliseconds, half-open. */
export const interval = z.strictObject({
  start: z.int(),
  end: z.int(),
}) satisfies z.ZodType<Interval>;
const pair = z.tuple([z.int(), z.int()]);

export const occupancy = z.enum(OCCUPANCIES);
export const busyState = z.enum(BUSY_STATES);
export const fitState = z.enum(FIT_STATES);
export const reservationState = z.enum(RESERVATION_STATES);
export const factKind = z.enum(MEETING_FACT_KINDS);
export const noticeKind = z.enum(NOTICE_KINDS);
export const deliveryPreference = z.enum(DELIVERY_PREFERENCES);
export const reply = z.enum(['needs-action', 'accepted', 'tentative', 'declined']);
export type Reply = z.output<typeof reply>;

export const shift = z.strictObject({ start: z.int(), end: z.int() }) satisfies z.ZodType<Shift>;
/** Monday first. */
export const week = z.array(z.array(shift).readonly()).readonly();

export const holiday = z.strictObject({
  date: z.string(),
  name: z.string(),
  /** What of the day is off, minutes after midnight; all of it where it is left out. */
  part: shift.optional(),
}) satisfies z.ZodType<Holiday>;

export const price = z.strictObject({
  hundredths: z.int(),
  currency: z.string(),
}) satisfies z.ZodType<Price>;

/** What bookings of a place are bound by; null is no bound. */
export const placeRules = z.strictObject({
  open: week.nullable(),
  shortestMinutes: z.int().nullable(),
  longestMinutes: z.int().nullable(),
  stepMinutes: z.int().nullable(),
  noticeMinutes: z.int().nullable(),
  horizonDays: z.int().nullable(),
  teams: z.array(z.int()).readonly().nullable(),
  weeklyMinutes: z.int().nullable(),
  approval: z.literal(true).nullable(),
  graceMinutes: z.int().nullable(),
  hourlyPrice: price.nullable(),
  assigned: z
    .strictObject({ ownerId: z.int(), owner: z.string(), freeDays: z.array(z.string()).readonly() })
    .optional(),
}) satisfies z.ZodType<PlaceRules>;

export const bookingTerms = z.strictObject({
  shortestMinutes: z.int().nullable(),
  longestMinutes: z.int().nullable(),
  stepMinutes: z.int().nullable(),
  weeklyMinutes: z.int().nullable(),
  zone: z.string(),
  weeks: z.array(interval.extend({ had: z.number() })).readonly(),
}) satisfies z.ZodType<BookingTerms>;

export const roomTimes = z.strictObject({
  id: z.int(),
  name: z.string(),
  siteId: z.int(),
  site: z.string(),
  floor: z.string(),
  seats: z.int(),
  features: z.array(z.string()).readonly(),
  busy: z.array(pair),
  barred: z.array(pair),
  terms: bookingTerms.nullable().optional(),
}) satisfies z.ZodType<RoomTimes>;

export const pastMeeting = interval.extend({
  people: z.array(z.int()).readonly(),
}) satisfies z.ZodType<PastMeeting>;

export const proposal = interval.extend({
  occurrence: z.string().nullable(),
  note: z.string(),
  madeAt: z.int(),
}) satisfies z.ZodType<Proposal>;

export const rightsOfInvitees = z.strictObject({
  change: z.boolean(),
  invite: z.boolean(),
  list: z.boolean(),
  count: z.boolean(),
}) satisfies z.ZodType<InviteeRights>;

export const findCondition = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.enum(['site', 'floor', 'text', 'time']) }),
  z.strictObject({ kind: z.literal('seats'), seats: z.int() }),
  z.strictObject({ kind: z.literal('feature'), feature: z.string() }),
]) satisfies z.ZodType<FindCondition>;
