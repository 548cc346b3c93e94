import { createHash, generateKeyPairSync, randomBytes, sign, type KeyObject } from 'node:crypto';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';

export interface Claims {
  sub: string;
  email?: string;
  email_verified?: boolean;
  name?: string;
  [more: string]: unknown;
}

/** How an identity provider lies. */
export interface Lies {
  /** Claims of its token in place of the right ones. */
  claims?: Partial<Record<'iss' | 'aud' | 'nonce' | 'exp' | 'iat' | 'sub', unknown>>;
  /** Whether its token is signed with a key that it does not publish. */
  foreignKey?: boolean;
  /** Whether it says that its token needs no signature. */
  unsigned?: boolean;
  /** What it answers for its tokens: nothing at all, or megabytes. */
  answers?: 'nothing' | 'too much';
}

const encoded = (value: object) => Buffer.from(JSON.stringify(value)).toString('base64url');

/**
 * An identity provider that says whatever a test wants, written from OpenID Connect Core 1.0 with nothing of the
 * library that Marmot speaks it by.
 */
export class LyingProvider {
  private readonly codes = new Map<string, { nonce: string; challenge: string; claims: Claims }>();
  private key = this.newKey();
  lies: Lies = {};
  /** How often its keys were asked for. */
  keysAsked = 0;

  private constructor(private readonly server: Server) {}

  static async start(): Promise<LyingProvider> {
    const server = createServer();
    const provider = new LyingProvider(server);
    server.on('request', (request, response) => {
      const parts: Buffer[] = [];
      request.on('data', (part: Buffer) => parts.push(part));
      request.on('end', () => {
        const url = new URL(request.url!, provider.issuer);
        const answer = provider.answer(url.pathname, Buffer.concat(parts).toString());
        if (answer === null) return;
        response.writeHead(answer.status, { 'Content-Type': 'application/json' });
        response.end(answer.text);
      });
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    return provider;
  }

  get issuer(): string {
    return `http://127.0.0.1:${(this.server.address() as AddressInfo).port}`;
  }

  end(): void {
    this.server.closeAllConnections();
    this.server.close();
  }

  private newKey(): { id: string; pair: { publicKey: KeyObject; privateKey: KeyObject } } {
    return {
      id: randomBytes(4).toString('hex'),
      pair: generateKeyPairSync('rsa', { modulusLength: 2048 }),
    };
  }

  /** Signs with another key from now on, which it publishes. */
  rotate(): void {
    this.key = this.newKey();
  }

  /** What its page would do: somebody agrees, and a code stands for that. */
  agree(location: string, claims: Claims): string {
    const asked = new URL(location).searchParams;
    const code = randomBytes(8).toString('hex');
    this.codes.set(code, {
      nonce: asked.get('nonce')!,
      challenge: asked.get('code_challenge')!,
      claims,
    });
    return code;
  }

  private answer(path: string, body: string): { status: number; text: string } | null {
    const ok = (value: object) => ({ status: 200, text: JSON.stringify(value) });
    if (path === '/.well-known/openid-configuration')
      return ok({
        issuer: this.issuer,
        authorization_endpoint: `${this.issuer}/authorize`,
        token_endpoint: `${this.issuer}/token`,
        jwks_uri: `${this.issuer}/keys`,
        end_session_endpoint: `${this.issuer}/end`,
        response_types_supported: ['code'],
        subject_types_supported: ['public'],
        id_token_signing_alg_values_supported: ['RS256'],
        authorization_response_iss_parameter_supported: true,
      });
    if (path === '/keys') {
      this.keysAsked++;
      const key = this.key.pair.publicKey.export({ format: 'jwk' });
      return ok({ keys: [{ ...key, kid: this.key.id, use: 'sig', alg: 'RS256' }] });
    }
    if (path !== '/token') return { status: 404, text: '{}' };
    if (this.lies.answers === 'nothing') return null;
    if (this.lies.answers === 'too much')
      return { status: 200, text: `"${'x'.repeat(2_000_000)}"` };
    const asked = new URLSearchParams(body);
    const known = this.codes.get(asked.get('code') ?? '');
    const proof = createHash('sha256')
      .update(asked.get('code_verifier') ?? '')
      .digest('base64url');
    if (!known || proof !== known.challenge)
      return { status: 400, text: JSON.stringify({ error: 'invalid_grant' }) };
    this.codes.delete(asked.get('code')!);
    return ok({
      access_token: 'x',
      token_type: 'Bearer',
      expires_in: 60,
      id_token: this.token(known.nonce, known.claims),
    });
  }

  private token(nonce: string, claims: Claims): string {
    const now = Math.floor(Date.now() / 1000);
    const { unsigned, foreignKey, claims: wrong } = this.lies;
    const head = encoded({ alg: unsigned ? 'none' : 'RS256', kid: this.key.id });
    const said = { iss: this.issuer, aud: 'marmot', nonce, iat: now, exp: now + 300, ...claims };
    const text = `${head}.${encoded({ ...said, ...wrong })}`;
    if (unsigned) return `${text}.`;
    const { privateKey } = foreignKey ? this.newKey().pair : this.key.pair;
    return `${text}.${sign('sha256', Buffer.from(text), privateKey).toString('base64url')}`;
  }
}
