import { resourceKind } from './resourceKind.ts';
import { z } from 'zod';
import { closure } from './closures.ts';
import { byId, calendarDate, idInPath, line, subjectId } from './common.ts';
import { page } from './paging.ts';
import { placeRules, interval, reservationState, findCondition } from './values.ts';
import { defineRoutes, file } from './route.ts';
import { LONGEST_FOUND_MINUTES, MOST_NEAR } from './limits.ts';

/** Places of a kind, at a site, free at the moment, whose name or features hold some words. */
export const placesQuery = z.strictObject({
  kind: resourceKind.optional(),
  site: z.coerce.number().pipe(subjectId).optional(),
  floor: line(20).optional(),
  free: z.enum(['now'], { error: 'must be "now"' }).optional(),
  q: line(100).default(''),
  ...page,
});
export type PlacesQuery = z.output<typeof placesQuery>;

export const placeDayQuery = z.strictObject({ date: calendarDate });

export const place = z.strictObject({
  id: z.int(),
  name: z.string(),
  kind: resourceKind,
  siteId: z.int(),
  site: z.string(),
  zone: z.string(),
  floor: z.string(),
  capacity: z.int(),
  units: z.int(),
  description: z.string(),
  features: z.array(z.string()),
  /** Kept free before and after each booking. */
  prepareMinutes: z.int(),
  clearMinutes: z.int(),
  rules: placeRules,
  /** By which a change says what it was read as. */
  version: z.int(),
  /** The version of its picture, by which that is asked for; null where there is none. */
  photo: z.int().nullable(),
  /** The rules in words, on the reader's clock. */
  ruleWords: z.array(z.string()),
  /** Why its reader cannot have it at this moment, whoever has it, behind its name; null where they can. */
  barred: z.string().nullable(),
  /** Units free at this moment. */
  freeUnits: z.int(),
  /** When the present state ends, epoch milliseconds; null when nothing follows within a week. */
  until: z.int().nullable(),
  /** Who has it now, as far as I may know. */
  holder: z.string().nullable(),
  title: z.string().nullable(),
  /** Out of use now, why and until when; null where it is not. */
  closure: closure.nullable(),
  /** The day on its own clock: when no unit of it is free, and how many bookings there are. */
  today: z.strictObject({
    start: z.int(),
    end: z.int(),
    taken: z.array(interval),
    bookings: z.int(),
  }),
});
export type Place = z.output<typeof place>;

/** A part of the places there are: the reader’s own site first, then by site and name. */
export const placesResponse = z.strictObject({
  places: z.array(place),
  /** How many there are in all, and how many of them are free at the moment. */
  total: z.int(),
  free: z.int(),
  /** Where there are places, and on which floors of the site that is asked for. */
  sites: z.array(
    z.strictObject({
      id: z.int(),
      name: z.string(),
    }),
  ),
  floors: z.array(z.string()),
});
export type PlacesResponse = z.output<typeof placesResponse>;

/** One booking of a resource, as far as the asker may see it. */
export const placeBooking = z.strictObject({
  eventId: z.uuid().nullable(),
  /** Which date of a series; null for what happens once, and where no more than its time is seen. */
  occurrence: z.string().nullable(),
  start: z.int(),
  end: z.int(),
  unit: z.int(),
  title: z.string().nullable(),
  holder: z.string().nullable(),
  mine: z.boolean(),
  /** Asked of a steward, held, or in use by now. */
  state: reservationState,
});
export type PlaceBooking = z.output<typeof placeBooking>;

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
    kind: resourceKind,
    date: calendarDate,
    from: minuteOfDay.default(8 * 60),
    /** Past 1440 it is the next day's. */
    to: z.coerce
      .number({ error: 'must be a number of minutes' })
      .int('must be whole minutes')
      .min(1, 'must be at least 1')
      .max(2880, 'may be at most 2880')
      .default(18 * 60),
    /** How long; without it, all of the time between. */
    minutes: z.coerce
      .number({ error: 'must be a number of minutes' })
      .int('must be whole minutes')
      .min(5, 'must be at least 5')
      .max(LONGEST_FOUND_MINUTES, `may be at most ${LONGEST_FOUND_MINUTES}`)
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
  .refine(({ from, to }) => to - from <= LONGEST_FOUND_MINUTES, {
    path: ['to'],
    message: `may lie at most ${LONGEST_FOUND_MINUTES} minutes after from`,
  })
  .refine(({ from, to, minutes }) => minutes === undefined || minutes <= to - from, {
    path: ['minutes'],
    message: 'must fit between from and to',
  });
export type FindQuery = z.output<typeof findQuery>;
export type FindAsked = z.input<typeof findQuery>;

export const foundPlaceRow = z.strictObject({
  id: z.int(),
  name: z.string(),
  kind: resourceKind,
  site: z.string(),
  zone: z.string(),
  floor: z.string(),
  capacity: z.int(),
  features: z.array(z.string()),
  ruleWords: z.array(z.string()),
  /** The first time that it can be had so long. Epoch milliseconds, half-open; null where it cannot. */
  free: interval.nullable(),
  /** Where it cannot: why, as a sentence goes on behind its name, and when it can that day. */
  notThen: z.strictObject({ why: z.string(), instead: interval.nullable() }).nullable(),
  near: z.strictObject({
    onFloor: z.int(),
    atSite: z.int(),
  }),
});
export type FoundPlaceRow = z.output<typeof foundPlaceRow>;

export const findResponse = z.strictObject({
  /** Free ones first; as many as are shown. */
  places: z.array(foundPlaceRow),
  /** How many match, and how many of them are free. */
  total: z.int(),
  free: z.int(),
  /** Whether the time that is looked at is over everywhere. */
  isOver: z.boolean(),
  /** What dropping each condition by itself would give, the most first. */
  excluded: z.array(
    z.strictObject({
      condition: findCondition,
      gives: z.int(),
    }),
  ),
  /** What can be asked for of the kind. */
  choices: z.strictObject({
    sites: z.array(
      z.strictObject({
        id: z.int(),
        name: z.string(),
      }),
    ),
    floors: z.array(z.string()),
    features: z.array(z.string()),
  }),
});
export type FindResponse = z.output<typeof findResponse>;

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
      .pipe(z.array(resourceKind).nullable()),
    site: z.coerce.number().pipe(subjectId).optional(),
    place: z.coerce.number().pipe(subjectId).optional(),
  })
  .refine((query) => query.days === 1 || query.place !== undefined, {
    path: ['days'],
    message: 'may be more than 1 for a single place alone',
  });
export type BoardQuery = z.output<typeof boardQuery>;

export const boardPlace = place
  .omit({
    freeUnits: true,
    barred: true,
    until: true,
    holder: true,
    title: true,
    today: true,
    closure: true,
  })
  .extend({
    /** Whether the reader wants to see it first. */
    isFavourite: z.boolean(),
  });
export type BoardPlace = z.output<typeof boardPlace>;
/** A place is somebody's from now on, or nobody's. */
export const ownerRequest = z.strictObject({
  personId: subjectId.nullable(),
});
/** A day on the place's own clock on which others may have it. */
export const freeDayPath = z.strictObject({ id: idInPath, date: calendarDate });

export const boardBooking = placeBooking.extend({
  resourceId: z.int(),
});
export type BoardBooking = z.output<typeof boardBooking>;

export const boardResponse = z.strictObject({
  /** By site and floor. */
  places: z.array(boardPlace),
  /** How many there are in all. */
  total: z.int(),
  bookings: z.array(boardBooking),
  /** When any of them is out of use. */
  closures: z.array(closure),
  /** Where there are places. */
  sites: z.array(
    z.strictObject({
      id: z.int(),
      name: z.string(),
      zone: z.string(),
    }),
  ),
  /** On whose clock the days are: the site's, where there is one, else the reader's. */
  zone: z.string(),
  /** The days' edges, epoch milliseconds: one more than there are days. */
  edges: z.array(z.int()),
});
export type BoardResponse = z.output<typeof boardResponse>;

export const placeDay = z.strictObject({
  dayStart: z.int(),
  dayEnd: z.int(),
  bookings: z.array(placeBooking),
  closures: z.array(closure),
});
export type PlaceDay = z.output<typeof placeDay>;

/** /api/places: rooms and other places, their state now and their days. */
export const placesRoutes = defineRoutes({
  'GET /api/places': {
    may: 'read shared',
    query: placesQuery,
    answer: placesResponse,
    replica: true,
  },
  'GET /api/places/board': {
    may: 'read shared',
    query: boardQuery,
    answer: boardResponse,
    replica: true,
  },
  'GET /api/places/find': {
    may: 'read catalogue',
    query: findQuery,
    answer: findResponse,
    replica: true,
  },
  'GET /api/places/:id': { may: 'read shared', params: byId, answer: place, replica: true },
  'GET /api/places/:id/day': {
    may: 'read shared',
    params: byId,
    query: placeDayQuery,
    answer: placeDay,
    replica: true,
  },
  'PUT /api/places/:id/favourite': {
    may: 'change own',
    params: byId,
    answer: z.strictObject({ isFavourite: z.boolean() }),
  },
  'DELETE /api/places/:id/favourite': {
    may: 'change own',
    params: byId,
    answer: z.strictObject({ isFavourite: z.boolean() }),
  },
  'PUT /api/places/:id/owner': {
    may: 'look-after places',
    params: byId,
    body: ownerRequest,
    answer: place,
  },
  'PUT /api/places/:id/free-days/:date': {
    may: 'change own',
    params: freeDayPath,
    answer: z.strictObject({ isFree: z.boolean() }),
  },
  'DELETE /api/places/:id/free-days/:date': {
    may: 'change own',
    params: freeDayPath,
    answer: z.strictObject({ isFree: z.boolean() }),
  },
  'GET /api/places/:id/photo': {
    may: 'read catalogue',
    params: byId,
    answer: file('image/*'),
    replica: true,
  },
  'POST /api/places/:id/photo': {
    may: 'look-after places',
    params: byId,
    answer: z.strictObject({ kept: z.boolean() }),
    status: 201,
    transaction: false,
  },
  'DELETE /api/places/:id/photo': {
    may: 'look-after places',
    params: byId,
    answer: z.strictObject({ photo: z.null() }),
  },
});
