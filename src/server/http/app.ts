import { bodyParser } from '@koa/bodyparser';
import type Router from '@koa/router';
import Koa, { type Context } from 'koa';
import compress from 'koa-compress';
import { sameOriginWrites } from './access.ts';
import { securityHeaders } from './headers.ts';
import { problems, Problem } from './problem.ts';
import { sessions } from '../session/middleware.ts';
import type { Platform } from '../platform.ts';

/** The HTTP application: what holds for every request, then the capabilities' routes, then pages. */
export function createApp(
  platform: Platform,
  routers: readonly Router[],
  pages?: Koa.Middleware,
): Koa {
  const app = new Koa();
  // Behind a proxy that ends TLS, its headers say how the browser came.
  app.proxy = platform.publicUrl.startsWith('https:');
  app.use(problems(platform.log));
  app.use(securityHeaders);
  app.use(
    compress({
      filter: (type) => !/event-stream|woff2|image\//.test(type),
      threshold: 1024,
      br: false,
    }),
  );
  app.use(sameOriginWrites);
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
  app.use(sessions(platform));
  for (const router of routers) app.use(router.routes());
  if (pages) app.use(pages);
  app.on('error', (error: Error, ctx?: Context) => {
    // A browser that goes away in the middle of an answer is no failure of ours.
    if (
      'code' in error &&
      ['ECONNRESET', 'EPIPE', 'ERR_STREAM_PREMATURE_CLOSE'].includes(String(error.code))
    )
      return;
    platform.log.error({ error, path: ctx?.path }, 'a response failed');
  });
  return app;
}
