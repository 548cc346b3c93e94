import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import type Router from '@koa/router';
import type { Middleware } from 'koa';
import { pino, type Logger } from 'pino';
import { accountsApi, forgottenJob } from './accounts/index.ts';
import {
  administrationApi,
  keepingApi,
  leavingApi,
  organizationHistory,
  personHistory,
  siteHistory,
  teamHistory,
} from './administration/index.ts';
import { attachmentBelonging, attachmentsApi } from './attachments/index.ts';
import { availabilityApi } from './availability/index.ts';
import { bookingsJob, bookingsApi } from './bookings/index.ts';
import { calendarApi } from './calendar/index.ts';
import { noteBelonging } from './reservations/index.ts';
import { ledgerApi, tallyJob } from './ledger/index.ts';
import { waitingJob, waitingApi } from './waiting/index.ts';
import { catalogueApi, placeHistory } from './catalogue/index.ts';
import { changesApi } from './changes/index.ts';
import { closuresApi } from './closures/index.ts';
import { commentBelonging, commentsApi } from './comments/index.ts';
import { isReachedByOthers, type Config } from './config.ts';
import { createPool, untilAvailable } from './db/pool.ts';
import { delegatesApi } from './delegates/index.ts';
import { eventsApi, horizonJob } from './events/index.ts';
import { guestsApi } from './guests/index.ts';
import { healthApi } from './health.ts';
import { forgetJob, housekeepingJob } from './keeping/index.ts';
import { createApp } from './http/app.ts';
import { fairShare, routerOf, whoAsks, type Capability } from './http/index.ts';
import { createListener } from './http/listener.ts';
import { incomingApi, startListener } from './incoming/index.ts';
import { invitationsApi } from './invitations/index.ts';
import { Jobs } from './jobs/index.ts';
import { lineUpsApi } from './lineUps/index.ts';
import { errorForLog } from './logging.ts';
import { LiveHub, liveApi } from './live/index.ts';
import { letterConsumer } from './letters/index.ts';
import { letterJob, type MailTransport } from './mail/index.ts';
import { createMetrics, serveMetrics } from './metrics/index.ts';
import { dailyLetterJob, newsConsumer, notificationsApi } from './notifications/index.ts';
import { peopleApi } from './people/index.ts';
import { personalBelongings } from './personal/index.ts';
import { explainTaken, placesApi } from './places/index.ts';
import type { Clock, Platform } from './platform.ts';
import { preferencesApi } from './preferences/index.ts';
import { archiveApi } from './archive/index.ts';
import { runningApi } from './running/index.ts';
import { directoryApi, directoryRoutes } from './directory/index.ts';
import { passkeysApi } from './passkeys/index.ts';
import { providersApi } from './providers/index.ts';
import { publishedJob, webCalendars, type PublishedCalendars } from './published/index.ts';
import { reminderJob, remindersApi } from './reminders/index.ts';
import { searchApi } from './search/index.ts';
import { sessionApi, sessions } from './session/index.ts';
import { setupApi } from './setup/index.ts';
import { MOST_TO_ANSWER_MS } from './limits.ts';

/** What is put in from outside: where mail goes and calendars are read, stand-ins, the built pages. */
interface Parts {
  transport: (platform: Platform) => MailTransport;
  calendars?: (clock: Clock) => PublishedCalendars;
  capabilities?: readonly Capability[];
  routers?: (platform: Platform) => Router[];
  pages?: Middleware;
  /** Whether this process works on jobs; one that does not leaves them to others. */
  works?: boolean;
}

export interface RunningServer {
  platform: Platform;
  port: number;
  /** Where metrics are served, if they are. */
  metricsPort: number | null;
  /** Where mail is handed over, if it is. */
  lmtpPort: number | null;
  /** Every route there is, for the test that holds who may use which. */
  routes: { method: string; path: string }[];
  end(): Promise<void>;
}

const CAPABILITIES: readonly Capability[] = [
  healthApi,
  sessionApi,
  setupApi,
  accountsApi,
  administrationApi,
  archiveApi,
  keepingApi,
  leavingApi,
  providersApi,
  passkeysApi,
  directoryApi,
  runningApi,
  liveApi,
  searchApi,
  peopleApi,
  availabilityApi,
  eventsApi,
  attachmentsApi,
  commentsApi,
  calendarApi,
  preferencesApi,
  lineUpsApi,
  invitationsApi,
  incomingApi,
  guestsApi,
  remindersApi,
  notificationsApi,
  delegatesApi,
  placesApi,
  bookingsApi,
  closuresApi,
  catalogueApi,
  changesApi,
  waitingApi,
  ledgerApi,
];

/** What every capability stands on, its connections not yet used. */
export function createPlatform(
  config: Config,
  log: Logger,
  calendars: PublishedCalendars = webCalendars,
): Platform {
  return {
    pool: createPool(config.databaseUrl, log),
    clock: config.clock,
    live: new LiveHub(config.databaseUrl, log),
    log,
    calendars,
    publicUrl: config.publicUrl,
    publicUrlGiven: config.publicUrlGiven,
    proxies: config.proxies,
    answerDomain: config.answerDomain,
    mailServer: config.mailServer,
    mailServerUrl: config.smtpUrl,
    holdSeconds: config.holdSeconds,
    keepDays: config.keepDays,
    demonstrationIsPublic: isReachedByOthers(config),
    checksAnswers: config.checksAnswers,
    consumers: [letterConsumer, newsConsumer],
    histories: [placeHistory, personHistory, siteHistory, teamHistory, organizationHistory],
    belongings: [...personalBelongings, attachmentBelonging, commentBelonging, noteBelonging],
  };
}

/** Starts a server process: its connections, its jobs and its HTTP port (0 takes a free one). */
export async function startServer(config: Config, parts: Parts): Promise<RunningServer> {
  const log = pino({
    level: config.logLevel,
    serializers: { error: errorForLog, err: errorForLog },
  });
  const platform = createPlatform(config, log, parts.calendars?.(config.clock));
  const jobs = new Jobs([
    letterJob(parts.transport(platform)),
    horizonJob,
    publishedJob,
    reminderJob,
    dailyLetterJob,
    bookingsJob,
    waitingJob,
    housekeepingJob,
    forgottenJob,
    forgetJob,
    tallyJob,
  ]);
  await untilAvailable(platform.pool, log);
  await platform.live.start();
  if (parts.works !== false) {
    await jobs.start(platform);
    platform.live.onAnything(() => jobs.wake());
  }

  const capabilities = [...CAPABILITIES, ...(parts.capabilities ?? [])];
  const router = routerOf(platform, capabilities, fairShare());
  const metrics = createMetrics(platform);
  const app = createApp(platform, {
    router,
    further: [directoryRoutes(platform), ...(parts.routers?.(platform) ?? [])],
    measure: metrics.measure,
    sessions: sessions(platform),
    explain: async (error, ctx) => {
      const actor = whoAsks(ctx);
      return actor && explainTaken(platform.pool, actor, error, platform.clock.now());
    },
    pages: parts.pages,
  });
  const answer = app.callback();
  const server = createListener((request, response) => {
    answer(request, response).catch((error: unknown) =>
      log.error({ error }, 'no answer was given'),
    );
  });
  const port = await listen(server, config.host, config.port);
  const listener = config.lmtpPort === null ? null : await startListener(platform, config.lmtpPort);
  const metricsPage =
    config.metrics && (await serveMetrics(metrics, config.metrics.host, config.metrics.port));
  return {
    platform,
    port,
    metricsPort: metricsPage?.port ?? null,
    lmtpPort: listener?.port ?? null,
    routes: router.stack.flatMap(({ methods, path }) =>
      methods.filter((one) => one !== 'HEAD').map((method) => ({ method, path: String(path) })),
    ),
    async end() {
      const closed = new Promise((resolve) => server.close(resolve));
      // Live streams never end by themselves; what else is under way is answered.
      platform.live.hangUp();
      // A connection that has been answered is kept by its browser, and would never end by itself.
      const idle = setInterval(() => server.closeIdleConnections(), 50);
      const insist = setTimeout(() => server.closeAllConnections(), MOST_TO_ANSWER_MS);
      await Promise.all([closed, jobs.end()]);
      clearInterval(idle);
      clearTimeout(insist);
      await listener?.end();
      await metricsPage?.end();
      await platform.live.end();
      await platform.pool.end();
    },
  };
}

function listen(server: Server, host: string, port: number): Promise<number> {
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, () => resolve((server.address() as AddressInfo).port));
  });
}
