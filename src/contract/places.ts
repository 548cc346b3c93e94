import { z } from 'zod';
import { calendarDate, idInPath } from './common.ts';

export const placePath = z.strictObject({ id: idInPath });
export const placeDayQuery = z.strictObject({ date: calendarDate });

export interface Place {
  id: number;
  name: string;
  kind: 'room' | 'lab' | 'desk' | 'equipment' | 'vehicle' | 'parking';
  siteId: number;
  site: string;
  zone: string;
  floor: string;
  capacity: number;
  units: number;
  description: string;
  features: string[];
  /** Units free at this moment. */
  freeUnits: number;
  /** When the present state ends, epoch milliseconds; null when nothing follows within a week. */
  until: number | null;
  /** Who has it now, as far as I may know. */
  holder: string | null;
  title: string | null;
}

export interface PlacesResponse {
  places: Place[];
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
