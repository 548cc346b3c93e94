import { z } from 'zod';
import type { Shift } from '../core/time/workingHours.ts';
import { mailAddress } from './common.ts';
import type { Reminder } from './eventParts.ts';
import type { HearingChoices } from './notifications.ts';

export const signInRequest = z.strictObject({
  email: mailAddress,
  password: z.string({ error: 'must be given' }).min(1, 'must be given').max(200),
});
export type SignInRequest = z.infer<typeof signInRequest>;

/** Who is signed in, and what the interface needs to know everywhere. */
export interface Me {
  id: number;
  name: string;
  email: string;
  role: 'staff' | 'steward' | 'administrator';
  zone: string;
  furtherZones: string[];
  clock: '24' | '12';
  /** The city of a site by zone, which says more to its people than the zone's own name. */
  zoneNames: Record<string, string>;
  siteId: number | null;
  siteName: string | null;
  /** Those for whom I plan, answer and book, by name. */
  actsFor: { id: number; name: string }[];
}

/** What somebody has chosen for their own calendar. */
export interface Preferences {
  /** 1 for Monday to 7 for Sunday. */
  firstWeekday: number;
  /** Monday first. */
  hours: Shift[][];
  /** Hours shown without asking for the whole day, in minutes after midnight. */
  shownFrom: number;
  shownTo: number;
  defaultMinutes: number;
  defaultReminders: Reminder[];
  /** By how much a booking of mine alone may be moved when its place goes out of use; 0 for not at all. */
  shiftMinutes: number;
  /** How I hear of each kind of news. */
  hearing: HearingChoices;
  /** How layers stand: over one another, beside one another, or a row each. */
  arrangement: 'over' | 'beside' | 'rows';
}

export interface SessionState {
  me: Me | null;
  preferences: Preferences | null;
  organization: string;
  /** Epoch milliseconds on the server's clock, which MARMOT_NOW may have fixed. */
  now: number;
  /** True while the clock stands still. */
  clockFixed: boolean;
  /** Whether this is the demonstration, shown to anybody: nothing in it is anybody's, or stays. */
  publicDemonstration: boolean;
  /** In the demonstration: who can sign in, and with which password. */
  demonstration: DemonstrationList | null;
  /** True while nobody can sign in, because the installation has not begun. */
  needsSetup: boolean;
}

export interface DemonstrationList {
  password: string;
  people: { name: string; email: string; jobTitle: string; site: string }[];
}
