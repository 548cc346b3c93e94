import type { Interval } from '../time/interval.ts';

/** How a claim takes a subject's time. `free` stands in the calendar without taking any. */
export const OCCUPANCIES = ['busy', 'tentative', 'away', 'free'] as const;
export type Occupancy = (typeof OCCUPANCIES)[number];

/**
 * How somebody else sees time that is not free: of `unknown` time nothing is known at all, and `barred`
 * is that of a place which its rules give to none of their bookings.
 */
export const BUSY_STATES = ['busy', 'tentative', 'away', 'unknown', 'barred'] as const;
export type BusyState = (typeof BUSY_STATES)[number];

export interface BusyInterval extends Interval {
  occupancy: BusyState;
}

/** What others may see of somebody's calendar, each level including the ones before it. */
export const SHARING_LEVELS = ['nothing', 'busy', 'titles', 'everything', 'edit', 'acts'] as const;

/**
 * What somebody may see of a calendar: what its owner gives, or that of a coordinator of one of their teams, who
 * plans and answers for them and is told nothing of what is private.
 */
export type SharingLevel = (typeof SHARING_LEVELS)[number] | 'coordinates';
const ORDER: readonly SharingLevel[] = [
  ...['nothing', 'busy', 'titles', 'everything'],
  ...['coordinates', 'edit', 'acts'],
] as SharingLevel[];

export const VISIBILITIES = ['default', 'public', 'private', 'hidden'] as const;
export type Visibility = (typeof VISIBILITIES)[number];

/** Whether others are not told what something is for; where it is hidden, not by whom a place is taken either. */
export const isPrivate = (visibility: string): boolean =>
  visibility === 'private' || visibility === 'hidden';

/** How an event shows to others; one that is not sent yet is a `draft`, whatever it will be. */
export type Shown = Visibility | 'draft';

const atLeast = (level: SharingLevel, wanted: SharingLevel): boolean =>
  ORDER.indexOf(level) >= ORDER.indexOf(wanted);

/** Without this, others are told that nothing is known, which is not the same as free. */
export const seesBusyTimes = (level: SharingLevel): boolean => atLeast(level, 'busy');

/**
 * Whether title and place of an event may be shown at a sharing level. A private event shows
 * busy time only, a public one shows its title to whoever sees that the time is taken, and a draft
 * is its organizer's and of those who act for them.
 */
export function seesTitle(level: SharingLevel, visibility: Shown): boolean {
  if (visibility === 'draft') return level === 'acts';
  if (atLeast(level, 'edit')) return true;
  if (isPrivate(visibility)) return false;
  return atLeast(level, visibility === 'public' ? 'busy' : 'titles');
}

/**
 * What somebody may see and do of one event, on whatever road they come to it: the organizer's level
 * decides, unless they take part. Everybody who takes part sees all of it; a private event is busy
 * time to others below `edit`, a public one shows its title to whoever sees that time is taken.
 * @param level on the organizer's calendar
 * @param takesPart the asker, or somebody for whom they act
 * @param inviteesChange whether those who take part may change it
 */
export function eventLevel(
  level: SharingLevel,
  visibility: Shown,
  takesPart: boolean,
  inviteesChange = false,
): SharingLevel {
  if (visibility === 'draft' && level !== 'acts') return seesBusyTimes(level) ? 'busy' : 'nothing';
  if (atLeast(level, 'edit')) return level;
  if (level === 'coordinates' && !isPrivate(visibility)) return 'edit';
  if (takesPart) return inviteesChange ? 'edit' : 'everything';
  if (isPrivate(visibility)) return seesBusyTimes(level) ? 'busy' : 'nothing';
  return visibility === 'public' && level === 'busy' ? 'titles' : level;
}

/** Whether an event may be changed, cancelled and the like. */
export const mayChange = (level: SharingLevel): boolean => atLeast(level, 'edit');

/** Whether title and place are shown at a level on an event itself. */
export const showsTitle = (level: SharingLevel): boolean => atLeast(level, 'titles');

/** Whether everything is shown at a level on an event itself. */
export const showsEverything = (level: SharingLevel): boolean => atLeast(level, 'everything');
