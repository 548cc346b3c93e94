import { z } from 'zod';
import type { Interval } from '../core/time/interval.ts';
import type { WallTime } from '../core/time/wall.ts';
import type { ReservationState } from '../core/booking/presence.ts';
import type { FindCondition } from '../core/booking/finding.ts';
import type { PlaceRules } from '../core/booking/rules.ts';
import type { Closure } from './closures.ts';
import { calendarDate, idInPath, line, subjectId } from './common.ts';
import { page } from './paging.ts';

export const RESOURCE_KINDS = ['room', 'lab', 'desk', 'equipment', 'vehicle', 'parking'] as const;
export type ResourceKind = (typeof RESOURCE_KINDS)[number];

/** Places of a kind, at a site, free at the moment, whose name or features hold some words. */
export const placesQuery = z.strictObject({
  kind: z.enum(RESOURCE_KINDS, { error: `must be one of ${RESOURCE_KINDS.join(', ')}` }).optional(),
  site: z.coerce.number().pipe(subjectId).optional(),
  floor: line(20).optional(),
  free: z.enum(['now'], { error: 'must be "now"' }).optional(),
  q: line(100).default(''),
  ...page,
});
export type PlacesQuery = z.output<typeof placesQuery>;

export const placePath = z.strictObject({ id: idInPath });
export const placeDayQuery = z.strictObject({ date: calendarDate });

export interface Place {
  id: number;
  name: string;
  kind: ResourceKind;
  siteId: number;
  site: string;
  zone: string;
  floor: string;
  capacity: number;
  units: number;
  description: string;
  features: string[];
  /** Kept free before and after each booking. */
  prepareMinutes: number;
  clearMinutes: number;
  rules: PlaceRules;
  /** By which a change says what it was read as. */
  version: number;
  /** The version of its picture, by which that is asked for; null where there is none. */
  photo: number | null;
  /** The rules in words, on the reader's clock. */
  ruleWords: string[];
  /** Units free at this moment. */
  freeUnits: number;
  /** When the present state ends, epoch milliseconds; null when nothing follows within a week. */
  until: number | null;
  /** Who has it now, as far as I may know. */
  holder: string | null;
  title: string | null;
  /** Out of use now, why and until when; null where it is not. */
  closure: Closure | null;
  /** The day on its own clock: when no unit of it is free, and how many bookings there are. */
  today: { start: number; end: number; taken: Interval[]; bookings: number };
}

/** A part of the places there are: the reader’s own site first, then by site and name. */
export interface PlacesResponse {
  places: Place[];
  /** How many there are in all, and how many of them are free at the moment. */
  total: number;
  free: number;
  /** Where there are places, and on which floors of the site that is asked for. */
  sites: { id: number; name: string }[];
  floors: string[];
}

/** One booking of a resource, as far as the asker may see it. */
export interface PlaceBooking {
  eventId: string | null;
  /** Which date of a series; null for what happens once, and where no more than its time is seen. */
  occurrence: WallTime | null;
  start: number;
  end: number;
  unit: number;
  title: string | null;
  holder: string | null;
  mine: boolean;
  /** Asked of a steward, held, or in use by now. */
  state: ReservationState;
}

/** As many people as places are looked for near to. */
const MOST_NEAR = 20;
const LONGEST_FOUND = 1440;

const numbersIn = (text: string | undefined) =>
  text ? [...new Set(text.split(',').map(Number))] : [];
const minuteOfDay = z.coerce
  .number({ error: 'must be minutes after midnight' })
  .int('must be minutes after midnight')
  .min(0, 'must be from 0 to 1440')
  .max(1440, 'must be from 0 to 1440');

/** A place of a kind that is to be had on a day for so long, as each place's own clock has it. */
export const findQuery = z
  .strictObject({
    kind: z.enum(RESOURCE_KINDS, { error: `must be one of ${RESOURCE_KINDS.join(', ')}` }),
    date: calendarDate,
    from: minuteOfDay.default(8 * 60),
    to: minuteOfDay.default(18 * 60),
    /** How long; without it, all of the time between. */
    minutes: z.coerce
      .number({ error: 'must be a number of minutes' })
      .int('must be whole minutes')
      .min(5, 'must be at least 5')
      .max(LONGEST_FOUND, `may be at most ${LONGEST_FOUND}`)
      .optional(),
    site: z.coerce.number().pipe(subjectId).optional(),
    floor: line(40).optional(),
    seats: z.coerce
      .number({ error: 'must be a number' })
      .int('must be a whole number')
      .min(1, 'must be at least 1')
      .max(10_000, 'may be at most 10000')
      .default(1),
    /** Features, all of them, set apart by commas. */
    with: line(300)
      .default('')
      .transform((text) => [...new Set(text.split(',').filter(Boolean))]),
    q: line(100).default(''),
    /** The ids of people it is to be near, set apart by commas. */
    near: z
      .string()
      .max(300, 'may be at most 300 characters long')
      .optional()
      .transform(numbersIn)
      .pipe(z.array(subjectId).max(MOST_NEAR, `may be at most ${MOST_NEAR} people`)),
  })
  .refine(({ from, to }) => from < to, { path: ['to'], message: 'must be after from' })
  .refine(({ from, to, minutes }) => minutes === undefined || minutes <= to - from, {
    path: ['minutes'],
    message: 'must fit between from and to',
  });
export type FindQuery = z.output<typeof findQuery>;

export interface FoundPlaceRow {
  id: number;
  name: string;
  kind: ResourceKind;
  site: string;
  zone: string;
  floor: string;
  capacity: number;
  features: string[];
  ruleWords: string[];
  /** The first time that it can be had so long. Epoch milliseconds, half-open; null where it cannot. */
  free: Interval | null;
  near: { onFloor: number; atSite: number };
}

export interface FindResponse {
  /** Free ones first; as many as are shown. */
  places: FoundPlaceRow[];
  /** How many match, and how many of them are free. */
  total: number;
  free: number;
  /** What dropping each condition by itself would give, the most first. */
  excluded: { condition: FindCondition; gives: number }[];
  /** What can be asked for of the kind. */
  choices: { sites: { id: number; name: string }[]; floors: string[]; features: string[] };
}
export const MOST_FOUND = 60;

/** As many places as a board shows; of more, those of the first sites by name. */
export const MOST_ON_BOARD = 500;

/** The places of some kinds over a day, or one place over some days. */
export const boardQuery = z
  .strictObject({
    date: calendarDate,
    days: z.coerce.number().int().min(1).max(14, 'must be from 1 to 14').default(1),
    kind: z
      .string()
      .max(60)
      .optional()
      .transform((text) => (text ? [...new Set(text.split(','))] : null))
      .pipe(
        z
          .array(z.enum(RESOURCE_KINDS, { error: `must be among ${RESOURCE_KINDS.join(', ')}` }))
          .nullable(),
      ),
    site: z.coerce.number().pipe(subjectId).optional(),
    place: z.coerce.number().pipe(subjectId).optional(),
  })
  .refine((query) => query.days === 1 || query.place !== undefined, {
    path: ['days'],
    message: 'may be more than 1 for a single place alone',
  });
export type BoardQuery = z.output<typeof boardQuery>;

export interface BoardPlace extends Omit<
  Place,
  'freeUnits' | 'until' | 'holder' | 'title' | 'today' | 'closure'
> {
  /** Whether the reader wants to see it first. */
  isFavourite: boolean;
}
/** A place is somebody's from now on, or nobody's. */
export const ownerRequest = z.strictObject({
  personId: subjectId.nullable(),
});
/** A day on the place's own clock on which others may have it. */
export const freeDayPath = z.strictObject({ id: idInPath, date: calendarDate });
/** So many days ahead at most a place is given free. */
export const MOST_FREE_DAYS = 366;

/** As many places as somebody may have among their favourites. */
export const MOST_FAVOURITES = 50;
export interface BoardBooking extends PlaceBooking {
  resourceId: number;
}

export interface BoardResponse {
  /** By site and floor. */
  places: BoardPlace[];
  /** How many there are in all. */
  total: number;
  bookings: BoardBooking[];
  /** When any of them is out of use. */
  closures: Closure[];
  /** Where there are places. */
  sites: { id: number; name: string; zone: string }[];
  /** On whose clock the days are: the site's, where there is one, else the reader's. */
  zone: string;
  /** The days' edges, epoch milliseconds: one more than there are days. */
  edges: number[];
}

export interface PlaceDay {
  dayStart: number;
  dayEnd: number;
  bookings: PlaceBooking[];
  closures: Closure[];
}
