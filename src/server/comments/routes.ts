import Router from '@koa/router';
import { changeCommentRequest, commentPath, commentRequest } from '../../contract/comments.ts';
import { eventPath } from '../../contract/events.ts';
import { act, read, readBody, requireActor } from '../http/index.ts';
import type { Platform } from '../platform.ts';
import { commentsFor, remove, rewrite, say } from './service.ts';

/** /api/events/:id/comments: what is said about a meeting, saying, changing and removing it. */
export function commentsRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/events/:id/comments' });

  router.get('/', async (ctx) => {
    const { id } = read(eventPath, ctx.params);
    ctx.body = await commentsFor(platform.pool, requireActor(ctx), id);
  });

  router.post('/', async (ctx) => {
    const { id } = read(eventPath, ctx.params);
    const request = readBody(commentRequest, ctx);
    await act(ctx, platform, async (tx, actor) => {
      await say(tx, platform, actor, id, request);
      return { status: 201, body: await commentsFor(tx, actor, id) };
    });
  });

  router.patch('/:comment', async (ctx) => {
    const { id, comment } = read(commentPath, ctx.params);
    const { words } = readBody(changeCommentRequest, ctx);
    await act(ctx, platform, async (tx, actor) => {
      await rewrite(tx, platform, actor, id, comment, words);
      return { status: 200, body: await commentsFor(tx, actor, id) };
    });
  });

  router.delete('/:comment', async (ctx) => {
    const { id, comment } = read(commentPath, ctx.params);
    await act(ctx, platform, async (tx, actor) => {
      await remove(tx, platform, actor, id, comment, true);
      return { status: 200, body: await commentsFor(tx, actor, id) };
    });
  });

  router.post('/:comment/restore', async (ctx) => {
    const { id, comment } = read(commentPath, ctx.params);
    await act(ctx, platform, async (tx, actor) => {
      await remove(tx, platform, actor, id, comment, false);
      return { status: 200, body: await commentsFor(tx, actor, id) };
    });
  });

  return router;
}
