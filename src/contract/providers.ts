import { z } from 'zod';
import { byId, line, requiredLine, versionRead } from './common.ts';
import { defineRoutes, file, nothing } from './route.ts';

/** A web address over TLS, or on this machine, without a query: what an issuer identifier is. */
const issuer = requiredLine(300).refine(
  (text) => {
    if (!URL.canParse(text)) return false;
    const url = new URL(text);
    const isLocal = /^(localhost|127\.\d+\.\d+\.\d+|\[::1\])$/.test(url.hostname);
    return (
      (url.protocol === 'https:' || (url.protocol === 'http:' && isLocal)) &&
      !url.search &&
      !url.hash &&
      !url.username
    );
  },
  { message: 'must be an address that begins with https://' },
);

const letsIn = z
  .enum(['staff', 'steward'], { error: 'must be "staff", "steward" or null' })
  .nullable();

export const newProvider = z.strictObject({
  name: requiredLine(80),
  issuer,
  clientId: requiredLine(300),
  clientSecret: requiredLine(500),
  letsIn: letsIn.default(null),
});
export type NewProvider = z.output<typeof newProvider>;

export const changeProviderRequest = z.strictObject({
  version: versionRead,
  name: requiredLine(80).optional(),
  issuer: issuer.optional(),
  clientId: requiredLine(300).optional(),
  /** Left out, it stays as it is: it is shown to nobody. */
  clientSecret: requiredLine(500).optional(),
  letsIn: letsIn.optional(),
});
export type ChangeProviderRequest = z.output<typeof changeProviderRequest>;

/** Who vouches for people, as administrators see it; its secret is shown to nobody. */
export const provider = z.strictObject({
  id: z.int(),
  version: z.int(),
  name: z.string(),
  issuer: z.string(),
  clientId: z.string(),
  letsIn,
  /** How many people came by it. */
  people: z.int(),
});
export type Provider = z.output<typeof provider>;

/** A path of this installation, to which somebody goes once they are signed in. */
const leadsTo = line(500)
  .refine((path) => path === '' || /^\/(?![/\\])/.test(path), {
    message: 'must be a path of this installation',
  })
  .default('');

/** Why somebody who came back from a provider is not signed in. */
export const SIGN_IN_PROBLEMS = [
  'refused',
  'over',
  'unknown',
  'unverified',
  'another',
  'ended',
  'away',
  'not-right',
] as const;
export type SignInProblem = (typeof SIGN_IN_PROBLEMS)[number];

export const providersRoutes = defineRoutes({
  'GET /api/sign-in/providers': {
    may: 'anybody',
    cost: 'public',
    answer: z.strictObject({
      providers: z.array(z.strictObject({ id: z.int(), name: z.string() })),
    }),
  },
  'POST /api/sign-in/providers/:id': {
    may: 'anybody',
    cost: 'public',
    params: byId,
    body: z.strictObject({ leadsTo }),
    /** Where the browser goes then. */
    answer: z.strictObject({ location: z.string() }),
    transaction: false,
  },
  'GET /api/sign-in/return': {
    may: 'anybody',
    cost: 'public',
    answer: file('text/html'),
  },
  /** Signs whoever asks out, here; the address ends their session at the provider, too, where there is one. */
  'POST /api/sign-in/end': {
    may: 'anybody',
    answer: z.strictObject({ location: z.string().nullable() }),
    transaction: false,
  },
  'GET /api/administration/providers': {
    may: 'administer organization',
    answer: z.strictObject({
      providers: z.array(provider),
      /** The address that a provider has to know. */
      returnAddress: z.string(),
    }),
  },
  'POST /api/administration/providers': {
    may: 'administer organization',
    body: newProvider,
    answer: z.strictObject({ id: z.int() }),
    status: 201,
  },
  'PATCH /api/administration/providers/:id': {
    may: 'administer organization',
    params: byId,
    body: changeProviderRequest,
    answer: z.strictObject({ version: z.int() }),
  },
  'DELETE /api/administration/providers/:id': {
    may: 'administer organization',
    params: byId,
    answer: nothing,
  },
  /** Asks a provider who it is, as a sign-in would. */
  'POST /api/administration/providers/:id/trial': {
    may: 'administer organization',
    params: byId,
    answer: z.strictObject({ endsSessions: z.boolean() }),
    transaction: false,
  },
});
