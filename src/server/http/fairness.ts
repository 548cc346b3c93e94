import { Stream } from 'node:stream';
import { whoAsks } from './access.ts';
import type { Share } from './implement.ts';
import { ConcurrencyLimiter } from './concurrencyLimiter.ts';
import { networkOf } from './network.ts';

/** Requests of one asker that are worked on at the same time, and that wait for these. */
const BOUNDS = { atOnce: 6, mostWaiting: 200, longestWaitMs: 20_000 };
/** Of these, requests that read or write many rows: the others of the same asker go past them. */
const MANY = { atOnce: 2, mostWaiting: 50, longestWaitMs: 60_000 };
/** Answers of one asker that are sent a part at a time, and read as they are sent. */
const STREAMED = { atOnce: 2, mostWaiting: 50, longestWaitMs: 60_000 };

/** The shares of one asker. */
interface Shares {
  requests: ConcurrencyLimiter;
  many: ConcurrencyLimiter;
  streamed: ConcurrencyLimiter;
}

/**
 * Lets the requests of one asker wait for each other and not the others for them: whoever sends many
 * holds no more than a few of the connections to the database, which all share. Whoever is not signed in
 * is known by their network address. Whoever asks whether the server is well waits for nobody. An answer
 * that is sent a part at a time keeps its place until its last byte has left or its reader is gone; a stream
 * that ends when its reader leaves is counted elsewhere.
 */
export function fairShare(): Share {
  const shares = new Map<string, Shares>();
  return (cost) => async (ctx, next) => {
    if (cost === 'unmetered') return next();
    const actor = whoAsks(ctx);
    const asker = actor ? `person ${actor.me.id}` : `network ${networkOf(ctx.ip)}`;
    const own = shares.get(asker) ?? {
      requests: new ConcurrencyLimiter(BOUNDS),
      many: new ConcurrencyLimiter(MANY),
      streamed: new ConcurrencyLimiter(STREAMED),
    };
    shares.set(asker, own);
    const forget = () => {
      if (own.requests.isEmpty && own.many.isEmpty && own.streamed.isEmpty) shares.delete(asker);
    };
    const work = () => own.requests.run(next);
    try {
      // First the narrow one: whoever waits there holds no place that others of theirs could have.
      await (cost === 'many' ? own.many.run(work) : work());
      if (ctx.body instanceof Stream && cost !== 'stream') {
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
