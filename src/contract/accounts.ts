import { z } from 'zod';
import { byId, mailAddress, requiredLine, zone } from './common.ts';
import { defineRoutes, nothing } from './route.ts';
import { newPassword } from './setup.ts';

/** What a link from a letter carries, behind its number sign. */
const linkToken = requiredLine(100);
export const linkRequest = z.strictObject({ token: linkToken });

/** Whom a link is for, before anything is done with it. */
export const linkShown = z.strictObject({
  purpose: z.enum(['welcome', 'password']),
  organization: z.string(),
  name: z.string(),
  email: z.string(),
  zone: z.string(),
});
export type LinkShown = z.output<typeof linkShown>;

export const useLinkRequest = z.strictObject({
  token: linkToken,
  password: newPassword,
  /** Where they are, if that is not what was thought. */
  zone: zone.optional(),
});
export type UseLinkRequest = z.output<typeof useLinkRequest>;

export const forgottenRequest = z.strictObject({ email: mailAddress });

export const changePasswordRequest = z.strictObject({
  old: z.string({ error: 'must be given' }).min(1, 'must be given').max(200),
  password: newPassword,
  /** Whether all other browsers are signed out. */
  endOthers: z.boolean({ error: 'must be true or false' }),
});
export type ChangePasswordRequest = z.output<typeof changePasswordRequest>;

/** A browser in which somebody is signed in. */
export const ownSession = z.strictObject({
  id: z.int(),
  /** Which browser on what, as far as it says so; empty where it does not. */
  browser: z.string(),
  signedInAt: z.int(),
  /** When it asked for something last, to a few minutes. */
  seenAt: z.int(),
  isThis: z.boolean(),
});
export type OwnSession = z.output<typeof ownSession>;

/** /api/account: a password by a letter, one's own password, and where one is signed in. */
export const accountsRoutes = defineRoutes({
  'POST /api/account/link': {
    may: 'anybody',
    cost: 'public',
    body: linkRequest,
    answer: linkShown,
    transaction: false,
  },
  'POST /api/account/link/use': {
    may: 'anybody',
    cost: 'public',
    body: useLinkRequest,
    answer: nothing,
    transaction: false,
  },
  'POST /api/account/forgotten': {
    may: 'anybody',
    cost: 'public',
    body: forgottenRequest,
    answer: nothing,
    transaction: false,
  },
  'POST /api/account/password': {
    may: 'change own',
    body: changePasswordRequest,
    answer: nothing,
    transaction: false,
  },
  'GET /api/account/sessions': {
    may: 'read own',
    answer: z.strictObject({ sessions: z.array(ownSession) }),
  },
  'DELETE /api/account/sessions/:id': {
    may: 'change own-by-id',
    params: byId,
    answer: nothing,
    transaction: false,
  },
});
