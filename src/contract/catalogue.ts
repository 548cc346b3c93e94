import { resourceKind } from './resourceKind.ts';
import { z } from 'zod';
import type { PlaceRules } from '../core/booking/rules.ts';
import { byId, line, requiredLine, subjectId, text, versionRead } from './common.ts';
import { closureMoves, closurePreview } from './closures.ts';

import { workingHours } from './preferences.ts';
import { defineRoutes, file } from './route.ts';
import { MOST_FEATURES, MOST_ROWS_OF_PLACES, MOST_TEAMS_OF_PLACE } from './limits.ts';

const whole = (least: number, most: number, what: string) =>
  z
    .number({ error: `must be a number of ${what}` })
    .int(`must be a whole number of ${what}`)
    .min(least, `must be at least ${least}`)
    .max(most, `may be at most ${most}`);

const features = z
  .array(requiredLine(40), { error: 'must be a list of words' })
  .max(MOST_FEATURES, `may name at most ${MOST_FEATURES}`)
  .transform((some) => [...new Set(some)]);

/** What bookings are bound by; null is no bound. */
const placeRules = z
  .strictObject({
    open: workingHours.nullable(),
    shortestMinutes: whole(5, 1440, 'minutes').nullable(),
    longestMinutes: whole(5, 44_640, 'minutes').nullable(),
    stepMinutes: whole(5, 1440, 'minutes').nullable(),
    noticeMinutes: whole(0, 525_600, 'minutes').nullable(),
    horizonDays: whole(0, 730, 'days').nullable(),
    teams: z
      .array(subjectId, { error: 'must be a list of teams' })
      .min(1, 'must name a team')
      .max(MOST_TEAMS_OF_PLACE, `may name at most ${MOST_TEAMS_OF_PLACE} teams`)
      .nullable(),
    weeklyMinutes: whole(15, 10_080, 'minutes').nullable(),
    approval: z.literal(true, { error: 'must be true or null' }).nullable(),
    graceMinutes: whole(5, 240, 'minutes').nullable(),
    hourlyPrice: z
      .strictObject({
        hundredths: whole(1, 100_000_000, 'hundredths'),
        currency: z
          .string({ error: 'must be a currency such as NOK' })
          .regex(/^[A-Z]{3}$/, 'must be a currency such as NOK'),
      })
      .nullable(),
  })
  .refine(
    ({ shortestMinutes: least, longestMinutes: most }) =>
      least === null || most === null || least <= most,
    { path: ['longestMinutes'], message: 'must not be less than the shortest' },
  );

const facts = {
  name: requiredLine(80),
  kind: resourceKind,
  siteId: subjectId,
  floor: line(20),
  capacity: whole(0, 10_000, 'seats'),
  units: whole(1, 500, 'units'),
  description: text(1000),
  features,
  prepareMinutes: whole(0, 480, 'minutes'),
  clearMinutes: whole(0, 480, 'minutes'),
  rules: placeRules,
};

/** A place as a steward adds it. */
export const newPlaceRequest = z.strictObject(facts);
export type NewPlaceRequest = z.input<typeof newPlaceRequest>;
export type NewPlace = Omit<z.output<typeof newPlaceRequest>, 'rules'> & { rules: PlaceRules };

/** What a steward changes of one; what is left out stays. */
export const changePlaceRequest = z.strictObject(facts).partial().extend({ version: versionRead });
export type ChangePlaceRequest = z.input<typeof changePlaceRequest>;
export type PlaceChange = Partial<NewPlace> & { version: number };

/** The same, only to see what it would do to bookings. */
export const placePreviewRequest = z.strictObject(facts).partial();
export type PlacePreviewRequest = z.input<typeof placePreviewRequest>;

/** Nobody books it from now on; its bookings go as when it is out of use. */
export const retireRequest = z.strictObject({ version: versionRead, ...closureMoves });
export type RetireRequest = z.input<typeof retireRequest>;

/** Rows of a file, by the names of its columns. */
export const importRequest = z.strictObject({
  rows: z
    .array(z.record(z.string().max(40), z.string().max(2000)), { error: 'must be a list of rows' })
    .min(1, 'must have a row')
    .max(MOST_ROWS_OF_PLACES, `may have at most ${MOST_ROWS_OF_PLACES} rows`),
  /** Whether it is only looked at, and nothing is done. */
  check: z.boolean({ error: 'must be true or false' }).default(true),
});
export type ImportRequest = z.input<typeof importRequest>;

/** A booking that stands against what a place would be bound by. */
export const standsAgainst = z.strictObject({
  start: z.int(),
  end: z.int(),
  title: z.string().nullable(),
  holder: z.string(),
  /** What of it, a sentence each behind the place's name. */
  broken: z.array(z.string()),
});
export type StandsAgainst = z.output<typeof standsAgainst>;

export const placePreview = z.strictObject({
  /** The first of them, the earliest first; they stay as they are. */
  against: z.array(standsAgainst),
  total: z.int(),
  /** What makes the change impossible, in a sentence; null where nothing does. */
  impossible: z.string().nullable(),
});
export type PlacePreview = z.output<typeof placePreview>;

export const rowProblem = z.strictObject({
  /** From 1, the heading not counted; 0 for the heading itself. */
  row: z.int(),
  field: z.string(),
  message: z.string(),
});
export type RowProblem = z.output<typeof rowProblem>;

/** What a file would do to the bookings of a place that it changes; they stay as they are. */
export const placeAgainst = z.strictObject({
  name: z.string(),
  site: z.string(),
  total: z.int(),
  /** The earliest of them. */
  first: standsAgainst,
});
export type PlaceAgainst = z.output<typeof placeAgainst>;

export const importResponse = z.strictObject({
  added: z.int(),
  changed: z.int(),
  /** Those that were retired, and can be booked again. */
  returned: z.int(),
  retired: z.int(),
  same: z.int(),
  /** Bookings that stand against rules that it changes, by place. */
  against: z.array(placeAgainst),
  /** While there is any, nothing is done. */
  problems: z.array(rowProblem),
  /** By which each change is taken back; none while it is only looked at. */
  changes: z.array(z.int()),
});
export type ImportResponse = z.output<typeof importResponse>;

/** What a steward chooses from. */
export const catalogueChoices = z.strictObject({
  sites: z.array(
    z.strictObject({
      id: z.int(),
      name: z.string(),
    }),
  ),
  teams: z.array(
    z.strictObject({
      id: z.int(),
      name: z.string(),
    }),
  ),
  /** Features that places have by now. */
  features: z.array(z.string()),
});
export type CatalogueChoices = z.output<typeof catalogueChoices>;

/** By which it is taken back. */
const change = z.int();
const placeAdded = z.strictObject({ id: z.int(), change });
/** Of one that is the same as before there is nothing to take back. */
const placeChanged = z.strictObject({ version: z.int(), change: change.nullable() });
/** How many bookings went elsewhere, and how many go on without a place. */
const retireResponse = z.strictObject({ moved: z.int(), without: z.int(), change });

/** /api/catalogue: the places there are, for those who look after them. */
export const catalogueRoutes = defineRoutes({
  'GET /api/catalogue/choices': {
    may: 'look-after places',
    answer: catalogueChoices,
    replica: true,
  },
  'POST /api/catalogue/places': {
    may: 'look-after places',
    body: newPlaceRequest,
    answer: placeAdded,
    status: 201,
  },
  'PATCH /api/catalogue/places/:id': {
    may: 'look-after places',
    params: byId,
    body: changePlaceRequest,
    answer: placeChanged,
  },
  'POST /api/catalogue/places/:id/preview': {
    may: 'look-after places',
    cost: 'many',
    params: byId,
    body: placePreviewRequest,
    answer: placePreview,
    transaction: false,
  },
  'GET /api/catalogue/places/:id/retire': {
    may: 'look-after places',
    cost: 'many',
    params: byId,
    answer: closurePreview,
  },
  'POST /api/catalogue/places/:id/retire': {
    may: 'look-after places',
    cost: 'many',
    params: byId,
    body: retireRequest,
    answer: retireResponse,
  },
  /** What is retired can be booked again; where its bookings went, they stay. */
  'POST /api/catalogue/places/:id/return': {
    may: 'look-after places',
    params: byId,
    body: z.strictObject({}),
    answer: z.strictObject({ change: z.int() }),
  },
  'GET /api/catalogue/places.csv': {
    may: 'look-after places',
    cost: 'many',
    answer: file('text/csv'),
    replica: true,
  },
  'POST /api/catalogue/import': {
    may: 'look-after places',
    cost: 'many',
    body: importRequest,
    answer: importResponse,
  },
});
