import type { Logger } from 'pino';
import type { Pool } from 'pg';
import type { Belonging } from './events/index.ts';
import type { FactConsumer, ThingHistory } from './facts/index.ts';
import type { KeepDays } from './keeping/index.ts';
import type { LiveHub } from './live/index.ts';
import type { PublishedCalendars } from './published/index.ts';

export interface Clock {
  /** Epoch milliseconds. */
  now(): number;
  /** True when MARMOT_NOW holds it still. */
  fixed: boolean;
}

/** What every capability stands on; made once, in main.ts or by a test. */
export interface Platform {
  pool: Pool;
  clock: Clock;
  live: LiveHub;
  log: Logger;
  /** Where the busy times of other organizations are read. */
  calendars: PublishedCalendars;
  /** Address under which people reach this server, without a slash at the end. */
  publicUrl: string;
  /** Whether that was given, or is only assumed. */
  publicUrlGiven: boolean;
  /** Proxies whose word about who asks is believed. */
  proxies: readonly string[];
  /** Where answers to letters come back; null where no mail comes in. */
  answerDomain: string | null;
  /** Where letters go, with a password if it needs one; null where they go to the Mailroom. */
  mailServerUrl: string | null;
  /** Whose word on senders is needed for mail that comes in (RFC 8601); null for nobody's. */
  mailServer: string | null;
  /** So long letters about meetings are held back, in which they can be taken back. Seconds. */
  holdSeconds: number;
  /** After how many days what is forgotten, by table. */
  keepDays: KeepDays;
  /** Whether others than this machine reach the demonstration, should this be it. */
  demonstrationIsPublic: boolean;
  /** Whether every answer is held to its schema, as in tests and in development. */
  checksAnswers: boolean;
  /** Those who tell of what happens, in the order in which they do. */
  consumers: readonly FactConsumer[];
  /** How what was done to each kind of thing is said and taken back. */
  histories: readonly ThingHistory[];
  /** What goes along when a part of a series becomes an event of its own. */
  belongings: readonly Belonging[];
}
