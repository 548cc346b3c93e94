import type { Clock } from './platform.ts';

export interface Config {
  databaseUrl: string;
  /** The network address to listen on; loopback unless told otherwise. */
  host: string;
  port: number;
  publicUrl: string;
  clock: Clock;
  /** Mail goes to the Mailroom when there is none. */
  smtpUrl: string | null;
  logLevel: string;
}

/**
 * Reads the settings from the environment.
 * @throws Error naming the variable and what is allowed
 */
export function readConfig(env: NodeJS.ProcessEnv): Config {
  const databaseUrl = env.MARMOT_DATABASE_URL;
  if (!databaseUrl) {
    throw new Error('MARMOT_DATABASE_URL must name a PostgreSQL database; npm start sets it.');
  }
  const port = Number(env.PORT ?? 4270);
  if (!Number.isInteger(port) || port < 0 || port > 65_535) {
    throw new Error(`PORT must be a number from 0 to 65535, not "${env.PORT}".`);
  }
  return {
    databaseUrl,
    host: env.HOST ?? '127.0.0.1',
    port,
    publicUrl: (env.MARMOT_PUBLIC_URL ?? `http://localhost:${port}`).replace(/\/$/, ''),
    clock: readClock(env.MARMOT_NOW),
    smtpUrl: env.MARMOT_SMTP_URL ?? null,
    logLevel: env.MARMOT_LOG ?? 'warn',
  };
}

/**
 * The system's clock, or one that stands still at MARMOT_NOW.
 * @throws Error when the text is no ISO 8601 instant
 */
export function readClock(fixedAt: string | undefined): Clock {
  if (!fixedAt) return { now: Date.now, fixed: false };
  const instant = Date.parse(fixedAt);
  if (Number.isNaN(instant)) {
    throw new Error(
      `MARMOT_NOW must be an instant such as 2026-11-24T08:12:00Z, not "${fixedAt}".`,
    );
  }
  return { now: () => instant, fixed: true };
}
