import { z } from 'zod';
import type { Interval } from '../core/time/interval.ts';
import type { WallTime } from '../core/time/wall.ts';
import type { ReservationState } from '../core/booking/presence.ts';
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
  /** Where there are places. */
  sites: { id: number; name: string }[];
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
