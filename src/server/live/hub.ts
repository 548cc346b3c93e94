import pg from 'pg';
import type { Logger } from 'pino';
import { LIVE_TOPICS, type LiveTopic } from '../../contract/live.ts';
import type { Transaction } from '../db/transaction.ts';

const CHANNEL = 'marmot_live';
/** A notification may hold 8000 bytes; this many ids fit with room to spare. */
const MOST_IDS = 700;

interface Notice {
  topics: LiveTopic[];
  /** Whom it concerns; null for everyone. */
  people: number[] | null;
}

type Listener = (topics: LiveTopic[]) => void;

/**
 * Tells people's browsers, on every server process, that something of theirs changed.
 * It is sent when the transaction commits, and not at all when it does not.
 */
export async function announce(
  tx: Transaction,
  topics: LiveTopic[],
  people: readonly number[] | 'everyone',
): Promise<void> {
  const groups: (number[] | null)[] = [];
  if (people === 'everyone') groups.push(null);
  else {
    const distinct = [...new Set(people)];
    for (let i = 0; i < distinct.length; i += MOST_IDS)
      groups.push(distinct.slice(i, i + MOST_IDS));
  }
  for (const group of groups) {
    const notice: Notice = { topics, people: group };
    await tx.query('select pg_notify($1, $2)', [CHANNEL, JSON.stringify(notice)]);
  }
}

/** Receives what other processes announce and hands it to the people connected to this one. */
export class LiveHub {
  private readonly listeners = new Map<number, Set<Listener>>();
  private readonly wakers = new Set<() => void>();
  private client: pg.Client | null = null;
  private ended = false;
  private retry: NodeJS.Timeout | undefined;

  constructor(
    private readonly databaseUrl: string,
    private readonly log: Logger,
  ) {}

  /** Begins to listen; a lost connection is made again, and everyone then reads everything anew. */
  async start(): Promise<void> {
    const client = new pg.Client({
      connectionString: this.databaseUrl,
      application_name: 'marmot live',
    });
    client.on('error', (error) => this.reconnect(error));
    client.on('end', () => this.reconnect());
    client.on('notification', (message) => this.receive(message.payload));
    this.client = client;
    await client.connect();
    await client.query(`listen ${CHANNEL}`);
  }

  private reconnect(error?: Error) {
    if (this.ended || this.retry) return;
    this.log.warn({ error }, 'the live connection is lost, trying again');
    this.retry = setTimeout(() => {
      this.retry = undefined;
      this.start().then(
        () => this.deliver({ topics: [...LIVE_TOPICS], people: null }),
        (failure: Error) => this.reconnect(failure),
      );
    }, 1000);
  }

  private receive(payload: string | undefined) {
    if (payload) this.deliver(JSON.parse(payload) as Notice);
  }

  private deliver({ topics, people }: Notice) {
    for (const waker of this.wakers) waker();
    for (const id of people ?? this.listeners.keys()) {
      for (const listener of this.listeners.get(id) ?? []) listener(topics);
    }
  }

  /** Calls `listener` for what concerns a person. @returns a function that ends it */
  subscribe(personId: number, listener: Listener): () => void {
    const own = this.listeners.get(personId) ?? new Set();
    this.listeners.set(personId, own.add(listener));
    return () => {
      own.delete(listener);
      if (own.size === 0) this.listeners.delete(personId);
    };
  }

  /** Calls `waker` whenever anything was committed, so that waiting jobs are looked for at once. */
  onAnything(waker: () => void): void {
    this.wakers.add(waker);
  }

  async end(): Promise<void> {
    this.ended = true;
    clearTimeout(this.retry);
    await this.client?.end();
  }
}
