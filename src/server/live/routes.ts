import { PassThrough } from 'node:stream';
import { liveRoutes, type LiveNotice } from '../../contract/live.ts';
import { canSubscribe } from '../access/index.ts';
import { implement, Problem, sessionSubject } from '../http/index.ts';
import { subjectOf } from './subjects.ts';
import { AGAIN_SECONDS, HEARTBEAT_MS, LONGEST_STREAM_MS, MOST_WAITING_BYTES } from './limits.ts';

/**
 * A stream of Server-Sent Events naming what changed of what the asker shows, as far as they may see it.
 * What they may not see is left out without a word.
 */
export const liveApi = implement(liveRoutes, (platform) => ({
  'GET /api/live': async ({ actor, query: { subjects }, ctx }) => {
    const own = (['calendar', 'person', 'reminders', 'notifications'] as const).map((kind) =>
      subjectOf(kind, actor.me.id),
    );
    const heard = [...new Set([...own, ...(await canSubscribe(platform.pool, actor, subjects))])];
    const stream = new PassThrough();
    const leave = platform.live.join(actor.me.id, () => close());
    if (!leave) {
      throw new Problem(429, 'too-many-streams', 'You have too many windows open. Close some.', {
        retryAfterSeconds: AGAIN_SECONDS,
      });
    }
    ctx.set({
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-store',
      'X-Accel-Buffering': 'no',
    });
    ctx.body = stream;
    ctx.req.socket.setNoDelay(true);
    stream.write('retry: 2000\nevent: ready\ndata: []\n\n');
    const send = (notice: LiveNotice) => {
      if (stream.readableLength > MOST_WAITING_BYTES) stream.destroy();
      else stream.write(`event: changed\ndata: ${JSON.stringify(notice)}\n\n`);
    };
    const session = sessionSubject(ctx);
    const ends = [
      platform.live.subscribe(heard, (what) => send('missed' in what ? ['*'] : what.changed)),
      // Whoever signs out hears nothing more, in none of that session's windows.
      platform.live.subscribe(session ? [session] : [], (what) => {
        if ('changed' in what) close();
      }),
      leave,
    ];
    // What it shows was read before it listened.
    const lately = platform.live.changedLately(heard);
    if (lately.length > 0) send(lately);
    // Said so that the window hears it: it takes a stream for dead on which nothing is said.
    const heartbeat = setInterval(() => stream.write('event: alive\ndata: []\n\n'), HEARTBEAT_MS);
    const longest = setTimeout(() => close(), LONGEST_STREAM_MS);
    const close = () => {
      clearInterval(heartbeat);
      clearTimeout(longest);
      for (const end of ends) end();
      stream.end();
    };
    ctx.req.on('close', close);
    stream.on('close', close);
  },
}));
