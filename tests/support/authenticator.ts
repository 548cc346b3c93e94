import { createHash, generateKeyPairSync, randomBytes, sign } from 'node:crypto';

const text = (value: string) =>
  Buffer.concat([head(3, Buffer.byteLength(value)), Buffer.from(value)]);
const bytes = (value: Buffer) => Buffer.concat([head(2, value.length), value]);
const int = (value: number) => (value >= 0 ? head(0, value) : head(1, -1 - value));
const map = (pairs: [Buffer, Buffer][]) => Buffer.concat([head(5, pairs.length), ...pairs.flat()]);

/** The head of a data item (RFC 8949 section 3). */
function head(major: number, value: number): Buffer {
  const first = major << 5;
  if (value < 24) return Buffer.from([first | value]);
  if (value < 256) return Buffer.from([first | 24, value]);
  return Buffer.from([first | 25, value >> 8, value & 255]);
}

const sha256 = (value: Buffer | string) => createHash('sha256').update(value).digest();

/** A device that keeps keys (WebAuthn level 3, section 6), written from the standard alone. */
export class Authenticator {
  private readonly pair = generateKeyPairSync('ec', { namedCurve: 'P-256' });
  readonly id = randomBytes(16).toString('base64url');
  counter = 1;
  /** Whether it makes sure who holds it. */
  verifies = true;

  constructor(
    readonly origin: string,
    readonly host = new URL(origin).hostname,
  ) {}

  private data(withKey: boolean): Buffer {
    const flags = 1 | (this.verifies ? 4 : 0) | (withKey ? 64 : 0);
    const counter = Buffer.alloc(4);
    counter.writeUInt32BE(this.counter++);
    const { x, y } = this.pair.publicKey.export({ format: 'jwk' });
    const id = Buffer.from(this.id, 'base64url');
    const key = map([
      [int(1), int(2)],
      [int(3), int(-7)],
      [int(-1), int(1)],
      [int(-2), bytes(Buffer.from(x!, 'base64url'))],
      [int(-3), bytes(Buffer.from(y!, 'base64url'))],
    ]);
    return Buffer.concat([
      sha256(this.host),
      Buffer.from([flags]),
      counter,
      ...(withKey
        ? [Buffer.alloc(16), Buffer.from([id.length >> 8, id.length & 255]), id, key]
        : []),
    ]);
  }

  private client(type: string, challenge: string): Buffer {
    return Buffer.from(
      JSON.stringify({ type, challenge, origin: this.origin, crossOrigin: false }),
    );
  }

  /** Makes its key. */
  create(challenge: string) {
    const client = this.client('webauthn.create', challenge);
    const attestation = map([
      [text('fmt'), text('none')],
      [text('attStmt'), map([])],
      [text('authData'), bytes(this.data(true))],
    ]);
    return {
      ...{ id: this.id, rawId: this.id, type: 'public-key' as const, clientExtensionResults: {} },
      response: {
        clientDataJSON: client.toString('base64url'),
        attestationObject: attestation.toString('base64url'),
        transports: ['internal'],
      },
    };
  }

  /** Signs with it. */
  get(challenge: string) {
    const client = this.client('webauthn.get', challenge);
    const data = this.data(false);
    const signature = sign('sha256', Buffer.concat([data, sha256(client)]), this.pair.privateKey);
    return {
      ...{ id: this.id, rawId: this.id, type: 'public-key' as const, clientExtensionResults: {} },
      response: {
        clientDataJSON: client.toString('base64url'),
        authenticatorData: data.toString('base64url'),
        signature: signature.toString('base64url'),
      },
    };
  }
}
