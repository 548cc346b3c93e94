import type { Context, Middleware } from 'koa';
import { whoAsks } from './access.ts';
import { Line } from './line.ts';

/** Requests of one asker that are worked on at the same time, and that wait for these. */
const BOUNDS = { atOnce: 6, mostWaiting: 200, longestWaitMs: 20_000 };

/**
 * Lets the requests of one asker wait for each other and not the others for them: whoever sends many
 * holds no more than a few of the connections to the database, which all share.
 * @param isApart whether a request is one that waits for nobody here
 */
export function fairShare(isApart: (ctx: Context) => boolean): Middleware {
  const lines = new Map<string, Line>();
  return async (ctx, next) => {
    if (isApart(ctx)) return next();
    const actor = whoAsks(ctx);
    const asker = actor ? `person ${actor.me.id}` : `address ${ctx.ip}`;
    const line = lines.get(asker) ?? new Line(BOUNDS);
    lines.set(asker, line);
    try {
      await line.run(next);
    } finally {
      if (line.isEmpty) lines.delete(asker);
    }
  };
}
