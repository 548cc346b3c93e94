import * as oidc from 'openid-client';
import { Refusal } from '../../core/refusal.ts';
import {
  DISCOVERED_MS,
  LONGEST_PROVIDER_ANSWER,
  LONGEST_PROVIDER_SECONDS,
  LONGEST_SUBJECT,
} from './limits.ts';
import type { Attempt, KeptProvider } from './queries.ts';

/** What a provider says of somebody, once all of it was checked. */
export interface Vouched {
  subject: string;
  email: string | null;
  isVerified: boolean;
  name: string | null;
  zone: string | null;
  idToken: string;
}

/** A provider does not answer, or not as one: nobody's fault who signs in. */
const away = ({ name }: Pick<KeptProvider, 'name'>, why: string) =>
  new Refusal('provider-away', `${name} does not answer as it should: ${why}.`);

const discovered = new Map<number, { key: string; at: number; config: oidc.Configuration }>();

/** What an answer of a provider says, to a bound of bytes: it is read whole before anything of it is looked at. */
const boundedFetch: oidc.CustomFetch = async (url, options) => {
  const response = await fetch(url, options as RequestInit);
  const parts: Uint8Array[] = [];
  let length = 0;
  const reader = response.body?.getReader();
  for (;;) {
    const part = await reader?.read();
    if (!part?.value) break;
    length += part.value.length;
    if (length > LONGEST_PROVIDER_ANSWER) throw new Error('its answer is too long');
    parts.push(part.value);
  }
  const hasBody = ![204, 205, 304].includes(response.status);
  return new Response(hasBody ? Buffer.concat(parts) : null, {
    status: response.status,
    headers: response.headers,
  });
};

/**
 * How a provider is spoken to, by what it says of itself (OpenID Connect Discovery). Its keys are asked for anew
 * where a token is signed by one that is not known (JWKS).
 * @throws Refusal where it does not answer
 */
export async function discover(provider: KeptProvider, now: number): Promise<oidc.Configuration> {
  const key = `${provider.version} ${provider.issuer} ${provider.clientId}`;
  const known = discovered.get(provider.id);
  if (known?.key === key && now - known.at < DISCOVERED_MS) return known.config;
  const isLocal = provider.issuer.startsWith('http:');
  try {
    const config = await oidc.discovery(
      new URL(provider.issuer),
      provider.clientId,
      undefined,
      oidc.ClientSecretPost(provider.clientSecret),
      {
        timeout: LONGEST_PROVIDER_SECONDS,
        [oidc.customFetch]: boundedFetch,
        execute: [
          // Signatures are checked also where TLS vouches for who answered.
          oidc.enableNonRepudiationChecks,
          ...(isLocal ? [oidc.allowInsecureRequests] : []),
        ],
      },
    );
    discovered.set(provider.id, { key, at: now, config });
    return config;
  } catch (error) {
    throw away(provider, reasonOf(error));
  }
}

const reasonOf = (error: unknown): string => {
  const { message, cause } = error as Error;
  return cause instanceof Error ? `${message} (${cause.message})` : message;
};

/** Where a browser goes to be vouched for, by authorization code with PKCE, state and nonce. */
export async function authorizationAddress(
  config: oidc.Configuration,
  redirectUri: string,
  { state, nonce, verifier }: Pick<Attempt, 'nonce' | 'verifier'> & { state: string },
): Promise<string> {
  return oidc.buildAuthorizationUrl(config, {
    redirect_uri: redirectUri,
    scope: 'openid email profile',
    code_challenge: await oidc.calculatePKCECodeChallenge(verifier),
    code_challenge_method: 'S256',
    state,
    nonce,
  }).href;
}

export const newState = (): string => oidc.randomState();
export const newNonce = (): string => oidc.randomNonce();
export const newVerifier = (): string => oidc.randomPKCECodeVerifier();

/**
 * Whom a provider vouches for, by the code that a browser brought back: state, issuer (RFC 9207), nonce, audience,
 * signature and times are checked.
 * @param returned the address with which the browser came back
 * @throws oidc errors where any of it is not right
 */
export async function vouchedFor(
  config: oidc.Configuration,
  returned: URL,
  { state, nonce, verifier }: Pick<Attempt, 'nonce' | 'verifier'> & { state: string },
): Promise<Vouched> {
  const tokens = await oidc.authorizationCodeGrant(config, returned, {
    pkceCodeVerifier: verifier,
    expectedState: state,
    expectedNonce: nonce,
    idTokenExpected: true,
  });
  const claims = tokens.claims()!;
  if (claims.sub.length > LONGEST_SUBJECT) throw new Error('its subject is too long');
  const told: Record<string, unknown> =
    claims.email === undefined && config.serverMetadata().userinfo_endpoint
      ? { ...(await oidc.fetchUserInfo(config, tokens.access_token, claims.sub)), ...claims }
      : claims;
  const text = (value: unknown) => (typeof value === 'string' && value !== '' ? value : null);
  return {
    subject: claims.sub,
    email: text(told.email),
    isVerified: told.email_verified === true,
    name: text(told.name),
    zone: text(told.zoneinfo),
    idToken: tokens.id_token!,
  };
}

/** Where a browser goes to end its session at the provider, too; null where it offers none. */
export function endAddress(
  config: oidc.Configuration,
  idToken: string,
  backTo: string,
): string | null {
  if (!config.serverMetadata().end_session_endpoint) return null;
  return oidc.buildEndSessionUrl(config, {
    id_token_hint: idToken,
    post_logout_redirect_uri: backTo,
  }).href;
}
