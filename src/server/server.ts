import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import type Router from '@koa/router';
import type { Middleware } from 'koa';
import { pino } from 'pino';
import type { Config } from './config.ts';
import type { Clock, Platform } from './platform.ts';
import { createPool } from './db/pool.ts';
import { availabilityRoutes } from './availability/routes.ts';
import { attachmentsRoutes } from './attachments/routes.ts';
import { calendarRoutes } from './calendar/routes.ts';
import { moveHorizon } from './events/horizon.ts';
import { eventsRoutes } from './events/routes.ts';
import { healthRoutes } from './health.ts';
import { createApp } from './http/app.ts';
import { invitationsRoutes } from './invitations/routes.ts';
import { Jobs } from './jobs/jobs.ts';
import { LiveHub } from './live/hub.ts';
import { liveRoutes } from './live/routes.ts';
import { deliverMail, sendLeftovers } from './mail/service.ts';
import type { MailTransport } from './mail/transport.ts';
import { peopleRoutes } from './people/routes.ts';
import { placesRoutes } from './places/routes.ts';
import { lineUpsRoutes } from './lineUps/routes.ts';
import { preferencesRoutes } from './preferences/routes.ts';
import { refreshPublished } from './published/service.ts';
import { webCalendars, type PublishedCalendars } from './published/source.ts';
import { searchRoutes } from './search/routes.ts';
import { sessionRoutes } from './session/routes.ts';

/** What is put in from outside: where mail goes and calendars are read, stand-ins, the built pages. */
interface Parts {
  transport: MailTransport;
  calendars?: (clock: Clock) => PublishedCalendars;
  routers?: (platform: Platform) => Router[];
  pages?: Middleware;
}

export interface RunningServer {
  platform: Platform;
  port: number;
  end(): Promise<void>;
}

/** Starts a server process: its connections, its jobs and its HTTP port (0 takes a free one). */
export async function startServer(config: Config, parts: Parts): Promise<RunningServer> {
  const log = pino({ level: config.logLevel });
  const platform: Platform = {
    pool: createPool(config.databaseUrl),
    clock: config.clock,
    jobs: new Jobs(config.databaseUrl, log),
    live: new LiveHub(config.databaseUrl, log),
    log,
    calendars: parts.calendars?.(config.clock) ?? webCalendars,
    publicUrl: config.publicUrl,
  };
  platform.pool.on('error', (error) => log.warn({ error }, 'an idle connection was lost'));
  await platform.live.start();
  await platform.jobs.start();
  await platform.jobs.workOnMail((id) => deliverMail(platform, parts.transport, id));
  await platform.jobs.workNightly(() => moveHorizon(platform));
  await platform.jobs.workOnPublished(() => refreshPublished(platform));
  platform.live.onAnything(() => platform.jobs.wake());
  const leftovers = sendLeftovers(platform, parts.transport).catch((error: Error) =>
    log.error({ error }, 'the outbox could not be read'),
  );

  // A server that was off at night catches up.
  const horizon = moveHorizon(platform).catch((error: Error) =>
    log.error({ error }, 'the horizon of series could not be moved on'),
  );

  const published = refreshPublished(platform).catch((error: Error) =>
    log.error({ error }, 'published times could not be read'),
  );

  const routers = [
    healthRoutes,
    sessionRoutes,
    liveRoutes,
    searchRoutes,
    peopleRoutes,
    availabilityRoutes,
    eventsRoutes,
    attachmentsRoutes,
    calendarRoutes,
    preferencesRoutes,
    lineUpsRoutes,
    invitationsRoutes,
    placesRoutes,
  ].map((routes) => routes(platform));
  const app = createApp(platform, [...routers, ...(parts.routers?.(platform) ?? [])], parts.pages);
  const server = createServer(app.callback());
  const port = await listen(server, config.host, config.port);
  return {
    platform,
    port,
    async end() {
      const closed = new Promise((resolve) => server.close(resolve));
      // Live streams never end by themselves.
      server.closeAllConnections();
      await closed;
      await Promise.all([leftovers, horizon, published]);
      await platform.jobs.end();
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
