import { bodyParser } from '@koa/bodyparser';
import type Router from '@koa/router';
import Koa, { type Context, type Middleware } from 'koa';
import compress from 'koa-compress';
import type { Platform } from '../platform.ts';
import { fairShare } from './fairness.ts';
import { securityHeaders } from './headers.ts';
import { knownHosts, noStore, whence } from './origin.ts';
import { requestId } from './requestId.ts';
import { problems, Problem, type Explain } from './problem.ts';

/** What the application is put together from. */
interface AppParts {
  routers: readonly Router[];
  /** Finds out who asks. */
  sessions: Middleware;
  /** Measures every request. */
  measure: Middleware;
  /** Says more of refusals that need a look at the database. */
  explain: Explain;
  /** The built interface, for every other address. */
  pages?: Middleware | undefined;
}

/** Errors of a browser that goes away in the middle of an answer, which is no failure of ours. */
const GONE = ['ECONNRESET', 'EPIPE', 'ERR_STREAM_PREMATURE_CLOSE'];

/** The HTTP application: what holds for every request, then the capabilities' routes, then pages. */
export function createApp(
  platform: Platform,
  { routers, sessions, measure, explain, pages }: AppParts,
): Koa {
  const app = new Koa();
  app.use(requestId);
  app.use(measure);
  app.use(problems(platform.log, explain));
  app.use(securityHeaders);
  app.use(whence(platform));
  app.use(noStore);
  app.use(knownHosts(platform));
  app.use(
    compress({
      filter: (type) => !/event-stream|woff2|image\//.test(type),
      // What is smaller costs more to compress than to send.
      threshold: 4096,
      br: false,
    }),
  );
  app.use(
    bodyParser({
      enableTypes: ['json'],
      jsonLimit: '1mb',
      onError: (error: Error & { status?: number }) => {
        if (error.status === 413) throw error;
        throw new Problem(400, 'not-json', 'The body is not valid JSON.', {
          fields: [{ field: 'body', message: 'must be valid JSON' }],
        });
      },
    }),
  );
  app.use(sessions);
  // Streams take nothing while they last, and signing in has a line of its own.
  const apart = ['/api/live', '/api/session'];
  app.use(fairShare((ctx) => apart.includes(ctx.path) || !ctx.path.startsWith('/api')));
  for (const router of routers) app.use(router.routes());
  if (pages) app.use(pages);
  app.on('error', (error: Error, ctx?: Context) => {
    if ('code' in error && GONE.includes(String(error.code))) return;
    platform.log.error({ error, path: ctx?.path }, 'a response failed');
  });
  return app;
}
