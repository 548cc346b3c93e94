import proxyAddress from 'proxy-addr';
import { readKeepDays, type KeepDays } from './keeping/index.ts';
import type { Clock } from './platform.ts';
import { USUAL_HOLD_SECONDS } from './limits.ts';

export interface Config {
  databaseUrl: string;
  /** The network address to listen on; loopback unless told otherwise. */
  host: string;
  port: number;
  publicUrl: string;
  /** Whether the public address was given, or is only assumed. */
  publicUrlGiven: boolean;
  /** Addresses of proxies whose X-Forwarded-For is believed, such as `10.0.0.0/8`; none by default. */
  proxies: string[];
  clock: Clock;
  /** Mail goes to the Mailroom when there is none. */
  smtpUrl: string | null;
  logLevel: string;
  /** Where metrics are served, apart from everything else; nowhere by default. */
  metrics: { host: string; port: number } | null;
  /** Where answers to letters come back; null where no mail comes in. */
  answerDomain: string | null;
  /** Where a mail server of this machine hands over what came in (LMTP); null for nowhere. */
  lmtpPort: number | null;
  /** Whose word on senders is needed for mail that comes in (authserv-id, RFC 8601); null for nobody's. */
  mailServer: string | null;
  /** After how many days what is forgotten, by table. */
  keepDays: KeepDays;
  /** So long letters meetings are held back, in which they can be taken back. */
  holdSeconds: number;
  /** Whether every answer is held to its schema; slow, and of no use to whoever runs it. */
  checksAnswers: boolean;
  /** Whether the demonstration may be shown beyond this machine, its password being public. */
  demonstrationMayBePublic: boolean;
}

/** Whether only this machine can reach an address. */
export const isLoopback = (host: string): boolean =>
  /^(localhost|127(\.\d{1,3}){3}|::1|\[::1\])$/i.test(host);

/**
 * Whether others than this machine reach the server: it listens to them, or stands behind a proxy that does,
 * or people use an address that is not this machine's.
 */
export const isReachedByOthers = ({ host, publicUrl, proxies }: Config): boolean =>
  !isLoopback(host) || !isLoopback(new URL(publicUrl).hostname) || proxies.length > 0;

/**
 * Reads the settings from the environment.
 * @throws Error naming the variable and what is allowed
 */
export function readConfig(env: NodeJS.ProcessEnv): Config {
  const databaseUrl = env.MARMOT_DATABASE_URL;
  if (!databaseUrl) {
    throw new Error('MARMOT_DATABASE_URL must name a PostgreSQL database; npm start sets it.');
  }
  const port = readPort('PORT', env.PORT ?? '4270');
  return {
    databaseUrl,
    host: env.HOST ?? '127.0.0.1',
    port,
    publicUrl: readPublicUrl(env.MARMOT_PUBLIC_URL) ?? `http://localhost:${port}`,
    publicUrlGiven: !!env.MARMOT_PUBLIC_URL,
    proxies: readProxies(env.MARMOT_PROXIES),
    clock: readClock(env.MARMOT_NOW),
    holdSeconds: readSeconds(env.MARMOT_HOLD_SECONDS),
    // The Mailroom stands in for whoever hands mail over; a real mail server has to be told to.
    answerDomain: env.MARMOT_ANSWER_DOMAIN ?? (env.MARMOT_SMTP_URL ? null : 'marmot.example'),
    lmtpPort: env.MARMOT_LMTP_PORT ? readPort('MARMOT_LMTP_PORT', env.MARMOT_LMTP_PORT) : null,
    keepDays: readKeepDays(env.MARMOT_KEEP_DAYS),
    mailServer: env.MARMOT_MAIL_SERVER?.trim() || null,
    smtpUrl: env.MARMOT_SMTP_URL ?? null,
    logLevel: env.MARMOT_LOG ?? 'warn',
    metrics: readMetrics(env.MARMOT_METRICS),
    checksAnswers: env.MARMOT_CHECK_ANSWERS === 'yes',
    demonstrationMayBePublic: env.MARMOT_DEMONSTRATION === 'public',
  };
}

/** @throws Error when the text is no port */
function readPort(name: string, text: string): number {
  const port = Number(text);
  if (Number.isInteger(port) && port >= 0 && port <= 65_535) return port;
  throw new Error(`${name} must be a number from 0 to 65535, not "${text}".`);
}

/** @throws Error when the text is no number of seconds from 0 to 120 */
function readSeconds(text: string | undefined): number {
  const seconds = text ? Number(text) : USUAL_HOLD_SECONDS;
  if (Number.isInteger(seconds) && seconds >= 0 && seconds <= 120) return seconds;
  throw new Error(`MARMOT_HOLD_SECONDS must be a number of seconds from 0 to 120, not "${text}".`);
}

/** @throws Error when the text is no port, with an address before it or without */
function readMetrics(text: string | undefined): Config['metrics'] {
  if (!text) return null;
  const match = /^(?:(.+):)?(\d{1,5})$/.exec(text);
  const port = Number(match?.[2]);
  if (!match || port > 65_535) {
    throw new Error(`MARMOT_METRICS must be a port such as 9470 or 10.0.0.5:9470, not "${text}".`);
  }
  return { host: match[1] ?? '127.0.0.1', port };
}

/** @throws Error when the text is no web address without a path */
function readPublicUrl(text: string | undefined): string | null {
  if (!text) return null;
  const url = URL.canParse(text) ? new URL(text) : null;
  if (!url || !/^https?:$/.test(url.protocol) || url.pathname !== '/' || url.search || url.hash) {
    throw new Error(
      `MARMOT_PUBLIC_URL must be an address such as https://marmot.example.org, not "${text}".`,
    );
  }
  return url.origin;
}

/** @throws Error when one of them is no network address */
function readProxies(text: string | undefined): string[] {
  const proxies = (text ?? '').split(',').map((one) => one.trim());
  const given = proxies.filter(Boolean);
  try {
    proxyAddress.compile(given);
  } catch {
    throw new Error(
      `MARMOT_PROXIES must be network addresses such as 127.0.0.1,10.0.0.0/8, not "${text}".`,
    );
  }
  return given;
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
