import { setTimeout as pause } from 'node:timers/promises';
import { DEMONSTRATION_PASSWORD } from '../../demo/data/load.ts';

/** How often is asked again. */
const MOST_TRIES = 5;

export interface Answer<Body> {
  status: number;
  headers: Headers;
  body: Body;
}

/** Somebody who talks to the server as their browser would. */
export class Client {
  private constructor(
    readonly base: string,
    readonly cookie: string,
  ) {}

  static anonymous(base: string): Client {
    return new Client(base, '');
  }

  /** Somebody who signed in before, at any server. */
  static signedIn(base: string, cookie: string): Client {
    return new Client(base, cookie);
  }

  /** Signs a person of the demonstration in, `ines.aldabe` for example. */
  static async signIn(base: string, mailbox: string): Promise<Client> {
    const answer = await Client.anonymous(base).post('/api/session', {
      email: `${mailbox}@ternrock.example`,
      password: DEMONSTRATION_PASSWORD,
    });
    if (answer.status !== 204) throw new Error(`${mailbox} cannot sign in: ${answer.status}`);
    return new Client(base, answer.headers.get('set-cookie')!.split(';')[0]!);
  }

  async request<Body = unknown>(
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<Answer<Body>> {
    const response = await this.send(path, {
      method,
      headers: {
        ...(this.cookie && { Cookie: this.cookie }),
        ...(body !== undefined && { 'Content-Type': 'application/json' }),
        ...headers,
      },
      ...(body !== undefined && { body: typeof body === 'string' ? body : JSON.stringify(body) }),
    });
    const text = await response.text();
    const json = response.headers.get('content-type')?.includes('json');
    return {
      status: response.status,
      headers: response.headers,
      body: (json ? JSON.parse(text) : text) as Body,
    };
  }

  /** A server that cannot answer just now, on a machine with too much to do, is asked again as it says. */
  private async send(path: string, init: RequestInit): Promise<Response> {
    for (let tries = 1; ; tries++) {
      const response = await fetch(this.base + path, init);
      const wait = Number(response.headers.get('retry-after'));
      if (response.status !== 503 || !(wait > 0) || tries > MOST_TRIES) return response;
      await response.arrayBuffer();
      await pause(wait * 1000);
    }
  }

  /** What is no text, as it is. */
  async bytes(path: string): Promise<Answer<Buffer>> {
    const response = await this.send(path, {
      headers: { ...(this.cookie && { Cookie: this.cookie }) },
    });
    const { status, headers } = response;
    return { status, headers, body: Buffer.from(await response.arrayBuffer()) };
  }

  get<Body = unknown>(path: string) {
    return this.request<Body>('GET', path);
  }

  post<Body = unknown>(path: string, body: unknown, headers?: Record<string, string>) {
    return this.request<Body>('POST', path, body, headers);
  }

  patch<Body = unknown>(path: string, body: unknown) {
    return this.request<Body>('PATCH', path, body);
  }
}
