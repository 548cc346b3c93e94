import { RESOURCE_KINDS, resourceKind } from './resourceKind.ts';
import { z } from 'zod';
import { byId, calendarDate, instant, line, requiredLine, subjectId, text } from './common.ts';
import { limit } from './paging.ts';

import { reservationState } from './values.ts';
import { undoTogetherRequest, undoneTogether } from './events.ts';
import { defineRoutes, file } from './route.ts';
import { LONGEST_VIEW, MOST_CHANGED, MOST_MADE_TOGETHER } from './limits.ts';

/** The columns of the ledger, by which it is sorted and, but for `start`, put into groups. */
export const LEDGER_COLUMNS = [
  'start',
  'length',
  'place',
  'kind',
  'site',
  'floor',
  'title',
  'holder',
  'state',
] as const;
export type LedgerColumn = (typeof LEDGER_COLUMNS)[number];

/** What rows can be put together by: any column, the beginning by its day or week. */
export const LEDGER_GROUPS = [
  'day',
  'week',
  ...LEDGER_COLUMNS.filter((one) => one !== 'start'),
] as const;
export type LedgerGroup = (typeof LEDGER_GROUPS)[number];

const BOOKING_STATES = ['requested', 'held', 'in-use', 'released'] as const;
export type LedgerState = (typeof BOOKING_STATES)[number];

const oneOf = <const Values extends readonly [string, ...string[]]>(values: Values) =>
  z.enum(values, { error: `must be one of ${values.join(', ')}` });

const filters = {
  /** Mine are those I organize. */
  whose: oneOf(['mine', 'all']).default('mine'),
  /** Days on the reader's clock; the last is included. Without them, from the beginning or to the end. */
  from: calendarDate.optional(),
  to: calendarDate.optional(),
  /** What is over by now, or what is not; otherwise both. */
  when: oneOf(['coming', 'past']).optional(),
  kind: oneOf(RESOURCE_KINDS).optional(),
  site: z.coerce.number().pipe(subjectId).optional(),
  place: z.coerce.number().pipe(subjectId).optional(),
  state: oneOf(BOOKING_STATES).optional(),
  q: line(100).default(''),
  sort: oneOf(LEDGER_COLUMNS).default('start'),
  order: oneOf(['up', 'down']).default('up'),
};

const CURSOR = 'must be what an answer before gave as next';

/** Which bookings, in which order; put into groups, or those of one group. */
export const ledgerQuery = z
  .strictObject({
    ...filters,
    group: oneOf(LEDGER_GROUPS).optional(),
    /** The key of a group whose rows are wanted; without it, the groups themselves. */
    in: z.string().max(400, 'may be at most 400 characters long').optional(),
    after: z.string().max(900, CURSOR).optional(),
    limit,
  })
  .refine((query) => query.in === undefined || query.group !== undefined, {
    path: ['in'],
    message: 'needs what the rows are put together by',
  });
export type LedgerQuery = z.output<typeof ledgerQuery>;
export type LedgerAsked = z.input<typeof ledgerQuery>;

export const ledgerExportQuery = z.strictObject(filters);
export type LedgerExportQuery = z.output<typeof ledgerExportQuery>;
export type LedgerExportAsked = z.input<typeof ledgerExportQuery>;

/** A booking of a place, as far as the reader may see it. */
export const ledgerRow = z.strictObject({
  /** Of the reservation. */
  id: z.string(),
  /** Null where no more than its time is seen. */
  eventId: z.uuid().nullable(),
  occurrence: z.string().nullable(),
  /** Its own time. Epoch milliseconds, half-open. */
  start: z.int(),
  end: z.int(),
  placeId: z.int(),
  place: z.string(),
  kind: resourceKind,
  site: z.string(),
  floor: z.string(),
  unit: z.int(),
  title: z.string().nullable(),
  holderId: z.int().nullable(),
  holder: z.string().nullable(),
  state: reservationState,
  /** People who are asked to it besides its holder; null where no more than its time is seen. */
  others: z.int().nullable(),
  mine: z.boolean(),
  /** Whether the reader may give it back or change it. */
  canChange: z.boolean(),
  /** Its event's version, where the reader may say what it is for and nobody else is asked to it. */
  version: z.int().nullable(),
});
export type LedgerRow = z.output<typeof ledgerRow>;

export const ledgerGroupRow = z.strictObject({
  key: z.string(),
  /** Null for what the reader may not see. */
  label: z.string().nullable(),
  bookings: z.int(),
  minutes: z.int(),
});
export type LedgerGroupRow = z.output<typeof ledgerGroupRow>;

export const ledgerResponse = z.strictObject({
  rows: z.array(ledgerRow),
  /** What is asked for as `after` to read on; null at the end. */
  next: z.string().nullable(),
  /** How many there are in all, counted up to a bound. */
  total: z.int(),
  isMore: z.boolean(),
  /** Where groups were asked for, the largest first. */
  groups: z.array(ledgerGroupRow),
  sites: z.array(
    z.strictObject({
      id: z.int(),
      name: z.string(),
    }),
  ),
});
export type LedgerResponse = z.output<typeof ledgerResponse>;

const booking = z.strictObject({
  /** Of the reservation. */
  id: z
    .string({ error: 'must be the id of a booking' })
    .regex(/^\d{1,18}$/, 'must be the id of a booking'),
  /** When it began as it was read: what was moved since is not what was meant. */
  start: instant,
});

/** What is done to several bookings at once: all of it, or nothing. */
export const ledgerChange = z.strictObject({
  bookings: z
    .array(booking, { error: 'must be a list of bookings' })
    .min(1, 'must name at least one booking')
    .max(MOST_CHANGED, `may name at most ${MOST_CHANGED} bookings`),
  change: z.discriminatedUnion(
    'kind',
    [
      z.strictObject({ kind: z.literal('give-back') }),
      z.strictObject({ kind: z.literal('place'), placeId: subjectId }),
      z.strictObject({
        kind: z.literal('shift'),
        minutes: z
          .number({ error: 'must be a number of minutes' })
          .int('must be whole minutes')
          .min(-525_600, 'must be within a year')
          .max(525_600, 'must be within a year')
          .refine((minutes) => minutes !== 0, 'must not be 0'),
      }),
    ],
    { error: 'must be give-back, place or shift' },
  ),
  message: text(1000).default(''),
});
export type LedgerChange = z.input<typeof ledgerChange>;

export const ledgerChanged = z.strictObject({
  /** Bookings that are given back whole, that a meeting goes on without, and that are elsewhere or at
   * another time. */
  cancelled: z.int(),
  without: z.int(),
  moved: z.int(),
  /** By which each meeting's change is taken back. */
  undo: z.array(
    z.strictObject({
      id: z.string(),
      version: z.int(),
    }),
  ),
});
export type LedgerChanged = z.output<typeof ledgerChanged>;

export const ledgerViewRequest = z.strictObject({
  name: requiredLine(60),
  /** As the view's address writes it, without the question mark. */
  query: line(LONGEST_VIEW),
});
export type LedgerViewRequest = z.input<typeof ledgerViewRequest>;

export const ledgerView = z.strictObject({
  id: z.int(),
  name: z.string(),
  query: z.string(),
});
export const ledgerViewsResponse = z.strictObject({
  views: z.array(ledgerView),
});

/** What its reader changed of several bookings at once, and can take back. */
export const ledgerChangesMade = z.strictObject({
  made: z
    .array(
      z.strictObject({
        at: z.int(),
        /** Whether they were given back; moved or changed otherwise. */
        isCancelling: z.boolean(),
        /** What some of them are for, as far as that is seen. */
        titles: z.array(z.string()),
        changes: z.array(z.strictObject({ id: z.string(), version: z.int() })),
      }),
    )
    .max(MOST_MADE_TOGETHER),
});

/** /api/ledger: all bookings as a table, written out, and changed together. */
export const ledgerRoutes = defineRoutes({
  'GET /api/ledger': {
    may: 'read shared',
    cost: 'many',
    query: ledgerQuery,
    answer: ledgerResponse,
    replica: true,
  },
  'GET /api/ledger/bookings.csv': {
    may: 'read shared',
    cost: 'many',
    query: ledgerExportQuery,
    answer: file('text/csv'),
    replica: true,
  },
  'GET /api/ledger/bookings.ics': {
    may: 'read shared',
    cost: 'many',
    query: ledgerExportQuery,
    answer: file('text/calendar'),
    replica: true,
  },
  'POST /api/ledger/change': {
    may: 'change shared',
    cost: 'many',
    body: ledgerChange,
    answer: ledgerChanged,
  },
  'GET /api/ledger/changes': { may: 'read shared', cost: 'many', answer: ledgerChangesMade },
  'POST /api/ledger/undo': {
    may: 'change shared',
    cost: 'many',
    body: undoTogetherRequest,
    answer: undoneTogether,
  },
  'GET /api/ledger/views': { may: 'read own', answer: ledgerViewsResponse, replica: true },
  'POST /api/ledger/views': {
    may: 'change own',
    body: ledgerViewRequest,
    answer: z.strictObject({ id: z.int() }),
    status: 201,
  },
  'DELETE /api/ledger/views/:id': {
    may: 'change own-by-id',
    params: byId,
    answer: z.strictObject({ kept: z.boolean() }),
  },
});
