import { z } from 'zod';
import type { PlaceRules } from '../core/booking/rules.ts';
import { idInPath, line, requiredLine, subjectId, text, versionRead } from './common.ts';
import { closureMoves } from './closures.ts';
import { RESOURCE_KINDS } from './places.ts';
import { workingHours } from './preferences.ts';

/** As many rows as a file of places may have. */
export const MOST_ROWS = 500;
const MOST_FEATURES = 30;
const MOST_TEAMS = 50;
const MOST_SHOWN = 50;

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
      .max(MOST_TEAMS, `may name at most ${MOST_TEAMS} teams`)
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
  kind: z.enum(RESOURCE_KINDS, { error: `must be one of ${RESOURCE_KINDS.join(', ')}` }),
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

export const cataloguePath = z.strictObject({ id: idInPath });

/** Rows of a file, by the names of its columns. */
export const importRequest = z.strictObject({
  rows: z
    .array(z.record(z.string().max(40), z.string().max(2000)), { error: 'must be a list of rows' })
    .min(1, 'must have a row')
    .max(MOST_ROWS, `may have at most ${MOST_ROWS} rows`),
  /** Whether it is only looked at, and nothing is done. */
  check: z.boolean({ error: 'must be true or false' }).default(true),
});
export type ImportRequest = z.input<typeof importRequest>;

/** A booking that stands against what a place would be bound by. */
export interface StandsAgainst {
  start: number;
  end: number;
  title: string | null;
  holder: string;
  /** What of it, a sentence each behind the place's name. */
  broken: string[];
}

export interface PlacePreview {
  /** The first of them, the earliest first; they stay as they are. */
  against: StandsAgainst[];
  total: number;
  /** What makes the change impossible, in a sentence; null where nothing does. */
  impossible: string | null;
}
export const MOST_AGAINST = MOST_SHOWN;

export interface RowProblem {
  /** From 1, the heading not counted. */
  row: number;
  field: string;
  message: string;
}

/** What a file would do to the bookings of a place that it changes; they stay as they are. */
export interface PlaceAgainst {
  name: string;
  site: string;
  total: number;
  /** The earliest of them. */
  first: StandsAgainst;
}

export interface ImportResponse {
  added: number;
  changed: number;
  retired: number;
  same: number;
  /** Bookings that stand against rules that it changes, by place. */
  against: PlaceAgainst[];
  /** While there is any, nothing is done. */
  problems: RowProblem[];
}

/** What a steward chooses from. */
export interface CatalogueChoices {
  sites: { id: number; name: string }[];
  teams: { id: number; name: string }[];
  /** Features that places have by now. */
  features: string[];
}
