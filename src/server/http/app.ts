import { Stream } from 'node:stream';
import type Router from '@koa/router';
import Koa, { type Context, type Middleware } from 'koa';
import compress from 'koa-compress';
import type { Platform } from '../platform.ts';
import { securityHeaders } from './headers.ts';
import { knownHosts, noStore, clientIp } from './origin.ts';
import { requestId } from './requestId.ts';
import { isGone, Problem, problems, type Explain } from './problem.ts';

/** What the application is put together from. */
interface AppParts {
  router: Router;
  /** Those of stand-ins for what is outside. */
  further: readonly Router[];
  /** Finds out who asks. */
  sessions: Middleware;
  /** Measures every request. */
  measure: Middleware;
  /** Says more of refusals that need a look at the database. */
  explain: Explain;
  /** The built interface, for every other address. */
  pages?: Middleware | undefined;
}

/** Half the time of what zlib does by itself, and a tenth more to send. */
const FAST = 3;

/** Addresses of the API are written in small letters: whatever holds for them looks at no others. */
const oneSpelling: Middleware = (ctx, next) => {
  if (!ctx.path.startsWith('/api') && ctx.path.slice(0, 4).toLowerCase() === '/api')
    throw new Problem(404, 'no-such-address', 'There is nothing here.');
  return next();
};

/** Writes an answer out once: whoever asks how long it is, compresses it and sends it would each do so again. */
const writtenOnce: Middleware = async (ctx, next) => {
  await next();
  const body: unknown = ctx.body;
  const isValue = typeof body === 'object' && body !== null;
  if (!isValue || body instanceof Stream || Buffer.isBuffer(body)) return;
  ctx.body = JSON.stringify(body);
};

/** The HTTP application: what holds for every request, then the routes of all capabilities, then pages. */
export function createApp(
  platform: Platform,
  { router, further, sessions, measure, explain, pages }: AppParts,
): Koa {
  const app = new Koa();
  app.use(requestId);
  app.use(measure);
  app.use(problems(platform.log, explain));
  app.use(securityHeaders);
  app.use(clientIp(platform));
  app.use(noStore);
  app.use(knownHosts(platform));
  app.use(
    compress({
      filter: (type) => !/event-stream|woff2|image\//.test(type),
      // What is smaller costs more to compress than to send.
      threshold: 4096,
      br: false,
      gzip: { level: FAST },
    }),
  );
  app.use(writtenOnce);
  app.use(oneSpelling);
  app.use(sessions);
  app.use(router.routes());
  for (const one of further) app.use(one.routes());
  if (pages) app.use(pages);
  app.on('error', (error: Error, ctx?: Context) => {
    if (isGone(error)) return;
    platform.log.error({ error, path: ctx?.path }, 'a response failed');
  });
  return app;
}
