import { z } from 'zod';
import { mailAddress } from './common.ts';
import { hearingChoices } from './notifications.ts';
import { week } from './values.ts';
import { reminder } from './eventParts.ts';
import { defineRoutes, nothing } from './route.ts';

export const signInRequest = z.strictObject({
  email: mailAddress,
  password: z.string({ error: 'must be given' }).min(1, 'must be given').max(200),
});
export type SignInRequest = z.infer<typeof signInRequest>;

/** What only some may by their role; `server/access/roles.ts` says which. */
export const ROLE_ACTS = [
  'look-after',
  'book-for',
  'exceed',
  'change',
  'see',
  'administer',
] as const;
export type RoleAct = (typeof ROLE_ACTS)[number];

/** Who is signed in, and what the interface needs to know everywhere. */
export const me = z.strictObject({
  id: z.int(),
  name: z.string(),
  email: z.string(),
  role: z.enum(['staff', 'steward', 'administrator']),
  /** What they may beside what everybody may. */
  acts: z.array(z.enum(ROLE_ACTS)),
  /** The places on which they may it; null for all. */
  keeps: z.array(z.int()).nullable(),
  zone: z.string(),
  furtherZones: z.array(z.string()),
  clock: z.enum(['24', '12']),
  /** The city of a site by zone, which says more to its people than the zone's own name. */
  zoneNames: z.record(z.string(), z.string()),
  siteId: z.int().nullable(),
  siteName: z.string().nullable(),
  /** Those for whom I plan, answer and book, by name. */
  actsFor: z.array(
    z.strictObject({
      id: z.int(),
      name: z.string(),
    }),
  ),
  /** The people of the teams that I coordinate, for whom I plan, answer and book what is not private, by name. */
  coordinates: z.array(z.strictObject({ id: z.int(), name: z.string() })),
});
export type Me = z.output<typeof me>;

/** What somebody has chosen for their own calendar. */
export const preferences = z.strictObject({
  /** 1 for Monday to 7 for Sunday. */
  firstWeekday: z.int(),
  /** Monday first. */
  hours: week,
  /** Hours shown without asking for the whole day, in minutes after midnight. */
  shownFrom: z.int(),
  shownTo: z.int(),
  defaultMinutes: z.int(),
  defaultReminders: z.array(reminder),
  /** By how much a booking of mine alone may be moved when its place goes out of use; 0 for not at all. */
  shiftMinutes: z.int(),
  /** How I hear of each kind of news. */
  hearing: hearingChoices,
  /** How layers stand: over one another, beside one another, or a row each. */
  arrangement: z.enum(['over', 'beside', 'rows']),
});
export type Preferences = z.output<typeof preferences>;

export const demonstrationList = z.strictObject({
  password: z.string(),
  people: z.array(
    z.strictObject({
      name: z.string(),
      email: z.string(),
      jobTitle: z.string(),
      site: z.string(),
    }),
  ),
});
export type DemonstrationList = z.output<typeof demonstrationList>;

export const sessionState = z.strictObject({
  me: me.nullable(),
  preferences: preferences.nullable(),
  organization: z.string(),
  /** Epoch milliseconds on the server's clock, which MARMOT_NOW may have fixed. */
  now: z.int(),
  /** True while the clock stands still. */
  clockFixed: z.boolean(),
  /** Whether this is the demonstration, shown to anybody: nothing in it is anybody's, or stays. */
  publicDemonstration: z.boolean(),
  /** In the demonstration: who can sign in, and with which password. */
  demonstration: demonstrationList.nullable(),
  /** True while nobody can sign in, because the installation has not begun. */
  needsSetup: z.boolean(),
});
export type SessionState = z.output<typeof sessionState>;

/** /api/session: who is signed in, signing in and out. */
export const sessionRoutes = defineRoutes({
  'GET /api/session': { may: 'anybody', answer: sessionState },
  'POST /api/session': { may: 'anybody', body: signInRequest, answer: nothing, transaction: false },
  'DELETE /api/session': { may: 'anybody', answer: nothing, transaction: false },
});
