import { z } from 'zod';
import type { PlaceRules } from '../core/booking/rules.ts';
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
  /** The rules in words, on the reader's clock. */
  ruleWords: string[];
  /** Units free at this moment. */
  freeUnits: number;
  /** When the present state ends, epoch milliseconds; null when nothing follows within a week. */
  until: number | null;
  /** Who has it now, as far as I may know. */
  holder: string | null;
  title: string | null;
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
  start: number;
  end: number;
  unit: number;
  title: string | null;
  holder: string | null;
  mine: boolean;
}

export interface PlaceDay {
  dayStart: number;
  dayEnd: number;
  bookings: PlaceBooking[];
}
