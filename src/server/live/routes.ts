import { PassThrough } from 'node:stream';
import Router from '@koa/router';
import { requirePerson } from '../http/access.ts';
import type { Platform } from '../platform.ts';

const HEARTBEAT_MS = 25_000;

/** GET /api/live: a stream of Server-Sent Events naming what changed for the person signed in. */
export function liveRoutes(platform: Platform): Router {
  const router = new Router();
  router.get('/api/live', (ctx) => {
    const me = requirePerson(ctx);
    const stream = new PassThrough();
    ctx.set({
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-store',
      'X-Accel-Buffering': 'no',
    });
    ctx.body = stream;
    ctx.req.socket.setNoDelay(true);
    stream.write('retry: 2000\n\n');
    const end = platform.live.subscribe(me.id, (topics) =>
      stream.write(`event: changed\ndata: ${JSON.stringify(topics)}\n\n`),
    );
    const heartbeat = setInterval(() => stream.write(': still here\n\n'), HEARTBEAT_MS);
    ctx.req.on('close', () => {
      clearInterval(heartbeat);
      end();
      stream.end();
    });
  });
  return router;
}
