import { createHash, randomBytes } from 'node:crypto';
import { afterAll, beforeAll } from 'vitest';
import { mailroomApi } from '../../demo/stand-ins/mailroom/routes.ts';
import { mailroomTransport } from '../../demo/stand-ins/mailroom/transport.ts';
import { partnerCalendars } from '../../demo/stand-ins/partnerCalendars/calendars.ts';
import { readConfig } from '../../src/server/config.ts';
import { webCalendars } from '../../src/server/published/index.ts';
import { startServer, type RunningServer } from '../../src/server/server.ts';
import { Client } from './client.ts';
import { TEST_NOW } from './cluster.ts';
import { faultsOf } from './readCalendars.ts';
import { brokenRules } from './rules.ts';
import { createTestDatabase, type TestDatabase } from './database.ts';

/** A real server on a real database for the tests of a file. */
export class TestServer {
  database!: TestDatabase;
  running!: RunningServer;
  private isPastTheRules = false;
  private readonly clients = new Map<string, Promise<Client>>();
  /** Letters of the demonstration, which one file reads for all. */
  private lettersBefore: string[] = [];

  constructor(
    private readonly parts: Partial<Parameters<typeof startServer>[1]> = {},
    /** So long letters are held back; the tests do not wait for what they are not about. */
    private readonly holdSeconds = 0,
  ) {}

  get base(): string {
    return `http://127.0.0.1:${this.running.port}`;
  }

  /**
   * The client of a person, who has a session: what a password is worth is told by tests of their own, and
   * proving it takes longer than most of the others.
   */
  as(mailbox: string): Promise<Client> {
    let client = this.clients.get(mailbox);
    if (!client) this.clients.set(mailbox, (client = this.signedIn(mailbox)));
    return client;
  }

  /** The same with a session of its own, where the one before may have ended. */
  asAgain(mailbox: string): Promise<Client> {
    this.clients.delete(mailbox);
    return this.as(mailbox);
  }

  private async signedIn(mailbox: string): Promise<Client> {
    const token = randomBytes(32).toString('base64url');
    const now = new Date(this.running.platform.clock.now());
    const rows = await this.sql(
      `insert into session (token_hash, person_id, created_at, expires_at)
       select $1, subject_id, $2::timestamptz, $2::timestamptz + interval '30 days'
       from person where email = $3 returning person_id`,
      [createHash('sha256').update(token).digest(), now, `${mailbox}@ternrock.example`],
    );
    if (rows.length === 0) throw new Error(`nobody has the mailbox ${mailbox}`);
    return Client.signedIn(this.base, `marmot_session=${token}`);
  }

  anonymous(): Client {
    return Client.anonymous(this.base);
  }

  async sql<Row extends Record<string, unknown>>(text: string, values?: unknown[]): Promise<Row[]> {
    return (await this.running.platform.pool.query<Row>(text, values)).rows;
  }

  /** The id of a person or resource of the demonstration. */
  async id(name: string): Promise<number> {
    const [row] = await this.sql<{ id: number }>('select id from subject where name = $1', [name]);
    if (!row) throw new Error(`nobody is called ${name}`);
    return row.id;
  }

  async start(): Promise<void> {
    this.database = await createTestDatabase();
    const config = readConfig({
      MARMOT_DATABASE_URL: this.database.url,
      MARMOT_NOW: TEST_NOW,
      MARMOT_LOG: 'error',
      MARMOT_CHECK_ANSWERS: 'yes',
      MARMOT_HOLD_SECONDS: String(this.holdSeconds),
      PORT: '0',
    });
    this.running = await startServer(config, {
      transport: mailroomTransport,
      calendars: (clock) => partnerCalendars(clock, webCalendars),
      capabilities: [mailroomApi],
      ...this.parts,
    });
    const letters = await this.sql<{ id: string }>('select id from mail');
    this.lettersBefore = letters.map((one) => one.id);
  }

  /** Every calendar part that a file's tests made is read by a parser that is not Marmot's own. */
  private async checkCalendars(): Promise<void> {
    const rows = await this.sql<{ calendar: string }>(
      'select distinct calendar from mail where calendar is not null and not (id = any($1))',
      [this.lettersBefore],
    );
    if (rows.length === 0) return;
    const faults = faultsOf(rows.map((row) => row.calendar));
    if (faults.length > 0)
      throw new Error(`calendars that others cannot read:\n${faults.join('\n')}`);
  }

  /** For tests that write to the database themselves, past whatever keeps it together. */
  writesPastTheRules(): void {
    this.isPastTheRules = true;
  }

  /** Whatever a file's tests did, what is kept holds together. */
  private async checkRules(): Promise<void> {
    if (this.isPastTheRules) return;
    const broken = await brokenRules((text) => this.sql(text));
    if (broken.length > 0) throw new Error(`rules that do not hold:\n${broken.join('\n')}`);
  }

  async end(): Promise<void> {
    await this.checkCalendars();
    await this.checkRules();
    await this.running.end();
    await this.database.drop();
  }
}

/** Starts a server before the file's tests and ends it after them. */
export function useServer(...given: ConstructorParameters<typeof TestServer>): TestServer {
  const server = new TestServer(...given);
  beforeAll(() => server.start());
  afterAll(() => server.end());
  return server;
}

/**
 * Asks again until the answer is what the test waits for.
 * @throws Error when it is not after so many seconds
 */
export async function eventually<T>(
  ask: () => Promise<T | undefined | false>,
  seconds = 10,
): Promise<T> {
  for (let tries = 0; tries < seconds * 20; tries++) {
    const answer = await ask();
    if (answer) return answer;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error('it did not happen');
}
