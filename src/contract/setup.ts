import { z } from 'zod';
import { mailAddress, requiredLine, zone } from './common.ts';
import { defineRoutes, nothing } from './route.ts';
import { LEAST_PASSWORD } from './limits.ts';

/** A password that is set anew. */
export const newPassword = z
  .string({ error: 'must be given' })
  .min(LEAST_PASSWORD, `must have at least ${LEAST_PASSWORD} characters`)
  .max(200, 'may be at most 200 characters long');

/** The first administrator of an installation, with its organization. */
export const setupRequest = z.strictObject({
  /** From the link that the server printed when it started. */
  token: requiredLine(100),
  organization: requiredLine(120),
  city: requiredLine(120),
  zone,
  name: requiredLine(120),
  email: mailAddress,
  password: newPassword,
});
export type SetupRequest = z.infer<typeof setupRequest>;

/** /api/setup: the first administrator, by the link that was printed at the start. */
export const setupRoutes = defineRoutes({
  'POST /api/setup': { may: 'anybody', body: setupRequest, answer: nothing, transaction: false },
});
