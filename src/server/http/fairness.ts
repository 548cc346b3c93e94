import { Stream } from 'node:stream';
import type { Context, Middleware } from 'koa';
import { whoAsks } from './access.ts';
import { Line } from './line.ts';
import { networkOf } from './network.ts';

/** Requests of one asker that are worked on at the same time, and that wait for these. */
const BOUNDS = { atOnce: 6, mostWaiting: 200, longestWaitMs: 20_000 };
/** Answers of one asker that are sent a part at a time, and read as they are sent. */
const STREAMED = { atOnce: 2, mostWaiting: 50, longestWaitMs: 60_000 };

/** The shares of one asker. */
interface Shares {
  requests: Line;
  streamed: Line;
}

/**
 * Lets the requests of one asker wait for each other and not the others for them: whoever sends many
 * holds no more than a few of the connections to the database, which all share. Whoever is not signed in
 * is known by their network address. An answer that is sent a part at a time keeps its place until its last
 * byte has left or its reader is gone.
 * @param isApart whether a request is one that waits for nobody here
 * @param isEndless whether its answer is a stream that ends when its reader leaves, and is counted elsewhere
 */
export function fairShare(
  isApart: (ctx: Context) => boolean,
  isEndless: (ctx: Context) => boolean,
): Middleware {
  const shares = new Map<string, Shares>();
  return async (ctx, next) => {
    if (isApart(ctx)) return next();
    const actor = whoAsks(ctx);
    const asker = actor ? `person ${actor.me.id}` : `network ${networkOf(ctx.ip)}`;
    const own = shares.get(asker) ?? { requests: new Line(BOUNDS), streamed: new Line(STREAMED) };
    shares.set(asker, own);
    const forget = () => {
      if (own.requests.isEmpty && own.streamed.isEmpty) shares.delete(asker);
    };
    try {
      await own.requests.run(next);
      if (ctx.body instanceof Stream && !isEndless(ctx)) {
        // Nothing of it is read before it is sent: that begins when this returns.
        const leave = await own.streamed.enter();
        const end = () => {
          leave();
          forget();
        };
        // Whoever left while they waited is told of no more.
        if (ctx.res.closed || ctx.req.socket.destroyed) end();
        else ctx.res.once('close', end);
      }
    } finally {
      forget();
    }
  };
}
