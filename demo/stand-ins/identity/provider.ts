import { generateKeyPairSync, randomBytes } from 'node:crypto';
import Provider from 'oidc-provider';
import { MemoryAdapter } from './memory.ts';

/** Somebody whom the stand-in vouches for. */
export interface Account {
  sub: string;
  name: string;
  email: string;
  emailVerified: boolean;
  zone?: string;
}

interface Settings {
  /** Its issuer identifier, under which it is served. */
  issuer: string;
  clientId: string;
  clientSecret: string;
  /** Where browsers go back to, signed in and signed out. */
  redirectUris: string[];
  signedOutUris: string[];
  find: (sub: string) => Promise<Account | null>;
  /** Where somebody says who they are. */
  loginPath: (uid: string) => string;
}

/**
 * An identity provider as an organization may have one (OpenID Connect), by a library of its own: its keys and what
 * is under way live as long as the process.
 */
export function identityProvider({
  issuer,
  clientId,
  clientSecret,
  redirectUris,
  signedOutUris,
  find,
  loginPath,
}: Settings): Provider {
  const { privateKey } = generateKeyPairSync('rsa', { modulusLength: 2048 });
  const key = {
    ...privateKey.export({ format: 'jwk' }),
    use: 'sig',
    kid: randomBytes(6).toString('hex'),
  };
  const provider: Provider = new Provider(issuer, {
    clients: [
      {
        client_id: clientId,
        client_secret: clientSecret,
        redirect_uris: redirectUris,
        post_logout_redirect_uris: signedOutUris,
        token_endpoint_auth_method: 'client_secret_post',
      },
    ],
    adapter: MemoryAdapter,
    jwks: { keys: [key as { kty: 'RSA' }] },
    cookies: { keys: [randomBytes(24).toString('hex')] },
    claims: { openid: ['sub'], email: ['email', 'email_verified'], profile: ['name', 'zoneinfo'] },
    conformIdTokenClaims: true,
    features: { devInteractions: { enabled: false } },
    interactions: { url: (_ctx, { uid }) => loginPath(uid) },
    pkce: { required: () => true },
    ttl: {
      AccessToken: 600,
      AuthorizationCode: 60,
      IdToken: 600,
      Interaction: 900,
      Session: 3600,
      Grant: 3600,
    },
    // Whoever signs in is asked nothing more: it is their organization’s own program.
    loadExistingGrant: async (ctx) => {
      const { client, session } = ctx.oidc;
      const grant = new provider.Grant({
        clientId: client!.clientId,
        accountId: session!.accountId!,
      });
      grant.addOIDCScope('openid email profile');
      await grant.save();
      return grant;
    },
    findAccount: async (_ctx, sub) => {
      const account = await find(sub);
      if (!account) return undefined;
      return {
        accountId: sub,
        claims: () => ({
          sub,
          name: account.name,
          email: account.email,
          email_verified: account.emailVerified,
          zoneinfo: account.zone,
        }),
      };
    },
  });
  return provider;
}
