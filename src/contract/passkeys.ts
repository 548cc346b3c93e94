import { z } from 'zod';
import { byId, requiredLine } from './common.ts';
import { MOST_PASSKEYS } from './limits.ts';
import { defineRoutes, nothing } from './route.ts';

const base64url = (most: number) =>
  z
    .string({ error: 'must be base64url text' })
    .max(most, `may be at most ${most} characters long`)
    .regex(/^[A-Za-z0-9_-]*$/, 'must be base64url text');

const common = {
  id: base64url(1400),
  rawId: base64url(1400),
  type: z.literal('public-key', { error: 'must be "public-key"' }),
  authenticatorAttachment: z.enum(['platform', 'cross-platform']).nullish(),
  clientExtensionResults: z.record(z.string().max(50), z.unknown()).optional(),
};

/** What a device answers that makes a key (WebAuthn level 3, section 5.1: RegistrationResponseJSON). */
export const registrationResponse = z.object({
  ...common,
  response: z.object({
    clientDataJSON: base64url(4000),
    attestationObject: base64url(20_000),
    transports: z.array(z.string().max(20)).max(10).optional(),
  }),
});

/** What a device answers that signs (AuthenticationResponseJSON). */
export const authenticationResponse = z.object({
  ...common,
  response: z.object({
    clientDataJSON: base64url(4000),
    authenticatorData: base64url(8000),
    signature: base64url(4000),
    userHandle: base64url(200).nullish(),
  }),
});

/** What a browser is given to ask a device with; its members are those of the standard. */
const options = z.looseObject({ challenge: z.string() });

export const passkey = z.strictObject({
  id: z.int(),
  name: z.string(),
  createdAt: z.int(),
  /** Null for never. */
  usedAt: z.int().nullable(),
});
export type Passkey = z.output<typeof passkey>;

export const passkeysRoutes = defineRoutes({
  'GET /api/passkeys': {
    may: 'read own',
    answer: z.strictObject({
      passkeys: z.array(passkey).max(MOST_PASSKEYS),
      /** Whether they have a password, too. */
      hasPassword: z.boolean(),
    }),
  },
  'POST /api/passkeys/options': { may: 'change own', answer: options, transaction: false },
  'POST /api/passkeys': {
    may: 'change own',
    body: z.strictObject({ name: requiredLine(60), response: registrationResponse }),
    answer: z.strictObject({ id: z.int() }),
    status: 201,
    transaction: false,
  },
  'PATCH /api/passkeys/:id': {
    may: 'change own-by-id',
    params: byId,
    body: z.strictObject({ name: requiredLine(60) }),
    answer: nothing,
  },
  'DELETE /api/passkeys/:id': { may: 'change own-by-id', params: byId, answer: nothing },
  /** Signs in by passkeys alone from now on; a letter still gives another password. */
  'POST /api/passkeys/alone': {
    may: 'change own',
    body: z.strictObject({
      old: z.string({ error: 'must be given' }).min(1, 'must be given').max(200),
    }),
    answer: nothing,
    transaction: false,
  },
  'POST /api/sign-in/passkey/options': {
    may: 'anybody',
    cost: 'public',
    answer: options,
    transaction: false,
  },
  'POST /api/sign-in/passkey': {
    may: 'anybody',
    cost: 'public',
    body: z.strictObject({ response: authenticationResponse }),
    answer: nothing,
    transaction: false,
  },
});
