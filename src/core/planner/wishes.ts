import type { BookingTerms } from '../booking/terms.ts';
import type { Interval } from '../time/interval.ts';

/** Others than the asker are given so long, unless something else is wished. Minutes. */
const USUAL_LEAD_MINUTES = 120;

/** By how many minutes a meeting may leave somebody's hours, unless more or less is wished. */
export const USUAL_STRETCH_MINUTES = 60;

/**
 * Where nothing else is wished: two hours as soon as others are asked, none for oneself. Minutes.
 * @param others people of the line-up other than the asker who are not set aside
 */
export const usualLead = (others: number): number => (others > 0 ? USUAL_LEAD_MINUTES : 0);

/** By how much a zone's people may be asked outside their hours, minutes beyond the general stretch. */
export interface ZoneStretch {
  early: number;
  late: number;
}

/** What a room must have to be offered. */
export interface RoomWishes {
  /** Every one of these. */
  features: readonly string[];
  /** A part of its name; empty for any. */
  text: string;
  /** At least so many, and enough for the people of its site; those alone where it is left out. */
  seats?: number;
  /** Sites that need no room. */
  without: readonly number[];
}

/** What is asked of the planner. */
export interface Wishes {
  /** Starts and ends of meetings lie inside it; it begins on a quarter hour. */
  window: Interval;
  /** No opening starts before this instant. */
  notBefore: number;
  /** The same once nobody but the asker is left, where it hangs on that; see `usualLead`. */
  aloneNotBefore?: number;
  /** Who asks: short notice is given to others alone. */
  askerId: number;
  /** The present instant, by which notice is short; without it none is. */
  now?: number;
  lengthMinutes: number;
  /**
   * The part of the day in which it lies whole, in minutes after midnight on the clock of `zone`; the
   * whole day where it is left out.
   */
  between?: { from: number; to: number } | null;
  /** Distance between possible starts, minutes. */
  stepMinutes: number;
  /** Whose conflicts exclude a time: the required people, or all of them. */
  rule: 'required' | 'everyone';
  /**
   * Which places must be free: those listed, those listed and a fitting room at every site that
   * has people and no room listed, or none.
   */
  places: 'listed' | 'fitting' | 'ignored';
  rooms: RoomWishes;
  /** Minutes by which a meeting may lie before or after somebody's working hours. */
  stretchMinutes: number;
  /** More of that for the people of some zones. */
  stretches: Readonly<Record<string, ZoneStretch>>;
  /** Whether tentative time may be used. */
  tentativeIsFree: boolean;
  /** Whether time of which nothing is known excludes a start, or only is said. It never is free. */
  unknown: 'busy' | 'ignored';
  /** Whether times at which required members are taken are offered too, the fewest first. */
  leastBad: boolean;
  /** Zone whose days the openings are spread over, and whose clock is preferred to show round times. */
  zone: string;
  /** The most openings to return. */
  limit: number;
}

/** A meeting that some of the line-up had, for fairness across zones. */
export interface PastMeeting extends Interval {
  people: readonly number[];
}

/** A room that could be taken. */
export interface RoomCandidate {
  id: number;
  name: string;
  siteId: number;
  site: string;
  floor: string;
  seats: number;
  features: readonly string[];
  /** When no meeting can be in it, preparing and clearing included; sorted by start. */
  busy: readonly Interval[];
  /** What of that is so by its rules, whoever has it. */
  barred?: readonly Interval[];
  /** What its rules ask of the asker's bookings besides; nothing where it is left out. */
  terms?: BookingTerms | null;
}

/** What the planner may use beyond the line-up itself. */
export interface Surroundings {
  rooms: readonly RoomCandidate[];
  /** The last meetings of much the same people, the most recent first. */
  history: readonly PastMeeting[];
}

export const NO_SURROUNDINGS: Surroundings = { rooms: [], history: [] };

export const NO_ROOM_WISHES: RoomWishes = { features: [], text: '', without: [] };
