import { randomUUID } from 'node:crypto';
import pg from 'pg';
import type { Logger } from 'pino';
import { ALL_RESOURCES, CHANNEL } from './subjects.ts';
import { LISTEN_AGAIN_MS, MOST_REMEMBERED, MOST_STREAMS, REMEMBERED_MS } from './limits.ts';

/** How often the connection proves that it still hears, and how long that may take. */
const PROOF = { everyMs: 20_000, withinMs: 10_000 };
const PING = 'ping:';

/** What reached a listener: the subjects that changed, or that something may have been missed. */
export type Heard = { changed: string[] } | { missed: true };
type Listener = (heard: Heard) => void;

interface Subscription {
  subjects: ReadonlySet<string>;
  listener: Listener;
}

/**
 * Hears what any process announces and hands it to the windows connected to this one, as far as they
 * show it. A connection that is lost, or that has gone deaf without a word, is made anew, and everyone
 * is told that they may have missed something.
 */
export class LiveHub {
  private readonly subscriptions = new Map<string, Set<Subscription>>();
  private readonly everywhere = new Set<Subscription>();
  private lately: { at: number; subjects: string[] }[] = [];
  private readonly wakers = new Set<() => void>();
  /** By whose windows they are: what ends each stream. */
  private readonly streams = new Map<number, Set<() => void>>();
  private client: pg.Client | null = null;
  private ended = false;
  private retry: NodeJS.Timeout | undefined;
  private proof: NodeJS.Timeout | undefined;
  private deadline: NodeJS.Timeout | undefined;

  constructor(
    private readonly databaseUrl: string,
    private readonly log: Logger,
    private readonly proving = PROOF,
  ) {}

  /** Begins to listen. @throws Error when the database cannot be reached */
  async start(): Promise<void> {
    const client = new pg.Client({
      connectionString: this.databaseUrl,
      application_name: 'marmot live',
      connectionTimeoutMillis: 10_000,
      query_timeout: this.proving.withinMs,
    });
    this.client = client;
    const lost = (error?: Error) => this.reconnect(client, error);
    client.on('error', lost);
    client.on('end', () => lost());
    client.on('notification', (message) => this.receive(message.payload ?? ''));
    await client.connect();
    await client.query(`listen ${CHANNEL}`);
    this.prove(client);
  }

  /** Sends itself a word, again and again; one that does not come back means that it is deaf. */
  private prove(client: pg.Client) {
    clearTimeout(this.proof);
    this.proof = setTimeout(() => {
      this.deadline ??= setTimeout(
        () => this.reconnect(client, new Error('nothing is heard any more')),
        this.proving.withinMs,
      );
      client
        .query('select pg_notify($1, $2)', [CHANNEL, `${PING}${randomUUID()}`])
        .then(() => this.prove(client))
        .catch(() => undefined);
    }, this.proving.everyMs);
  }

  private stopWaiting() {
    clearTimeout(this.deadline);
    this.deadline = undefined;
  }

  private reconnect(client: pg.Client, error?: Error) {
    // Only the present connection matters; an old one ends in its own time.
    if (this.ended || this.retry || client !== this.client) return;
    this.log.warn({ error }, 'the live connection is lost, trying again');
    this.client = null;
    clearTimeout(this.proof);
    this.stopWaiting();
    client.removeAllListeners();
    client.on('error', () => undefined);
    void client.end().catch(() => undefined);
    this.retry = setTimeout(() => {
      this.retry = undefined;
      this.start().then(
        () => this.tellAll({ missed: true }),
        (failure: Error) => {
          if (this.client) this.reconnect(this.client, failure);
        },
      );
    }, LISTEN_AGAIN_MS);
  }

  private receive(payload: string) {
    this.stopWaiting();
    if (payload.startsWith(PING)) return;
    for (const waker of this.wakers) waker();
    this.remember(payload.split(' '));
    const heard = new Map<Subscription, string[]>();
    const hear = (shown: string) => {
      for (const one of this.subscriptions.get(shown) ?? []) {
        const before = heard.get(one) ?? [];
        if (!before.includes(shown)) heard.set(one, [...before, shown]);
      }
    };
    for (const subject of payload.split(' ')) {
      hear(subject);
      if (subject.startsWith('resource:')) hear(ALL_RESOURCES);
    }
    for (const [{ listener }, changed] of heard) listener({ changed });
  }

  private remember(subjects: string[]) {
    const now = performance.now();
    this.lately = [...this.lately, { at: now, subjects }]
      .filter((one) => one.at > now - REMEMBERED_MS)
      .slice(-MOST_REMEMBERED);
  }

  /** Which of some subjects changed a moment ago. */
  changedLately(subjects: readonly string[]): string[] {
    const since = performance.now() - REMEMBERED_MS;
    const changed = new Set(
      this.lately.flatMap((one) =>
        one.at <= since
          ? []
          : one.subjects.flatMap((subject) =>
              subject.startsWith('resource:') ? [subject, ALL_RESOURCES] : subject,
            ),
      ),
    );
    return subjects.filter((one) => changed.has(one));
  }

  private tellAll(heard: Heard) {
    for (const { listener } of this.everywhere) listener(heard);
  }

  /** Calls `listener` when one of the subjects changed. @returns a function that ends it */
  subscribe(subjects: readonly string[], listener: Listener): () => void {
    const one: Subscription = { subjects: new Set(subjects), listener };
    this.everywhere.add(one);
    for (const subject of one.subjects) {
      const others = this.subscriptions.get(subject) ?? new Set();
      this.subscriptions.set(subject, others.add(one));
    }
    return () => {
      this.everywhere.delete(one);
      for (const subject of one.subjects) {
        const others = this.subscriptions.get(subject);
        others?.delete(one);
        if (others?.size === 0) this.subscriptions.delete(subject);
      }
    };
  }

  /** How many windows listen. */
  get size(): number {
    return [...this.streams.values()].reduce((sum, one) => sum + one.size, 0);
  }

  /** Calls `waker` whenever anything was committed, so that waiting jobs are looked for at once. */
  onAnything(waker: () => void): void {
    this.wakers.add(waker);
  }

  /**
   * Takes in the stream of somebody's window; `close` is called when the server ends.
   * @returns a function that takes it out; null when they have as many as one may have
   */
  join(personId: number, close: () => void): (() => void) | null {
    const theirs = this.streams.get(personId) ?? new Set();
    if (theirs.size >= MOST_STREAMS) return null;
    this.streams.set(personId, theirs.add(close));
    return () => {
      // Said again, when others of theirs have come meanwhile, it changes nothing.
      if (theirs.delete(close) && theirs.size === 0) this.streams.delete(personId);
    };
  }

  /** Ends every stream, so that the server can. */
  hangUp(): void {
    for (const close of [...this.streams.values()].flatMap((one) => [...one])) close();
  }

  async end(): Promise<void> {
    this.ended = true;
    clearTimeout(this.retry);
    clearTimeout(this.proof);
    this.stopWaiting();
    await this.client?.end().catch(() => undefined);
  }
}
