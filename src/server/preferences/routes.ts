import Router from '@koa/router';
import { z } from 'zod';
import { idInPath } from '../../contract/common.ts';
import { categoryRequest, changePreferencesRequest } from '../../contract/preferences.ts';
import type { Me } from '../../contract/session.ts';
import type { Transaction } from '../db/transaction.ts';
import { invalid } from '../../core/refusal.ts';
import { act, Problem, read, readBody, requireActor } from '../http/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import type { Platform } from '../platform.ts';
import { deleteCategory, insertCategory, readCategories, updateCategory } from './queries.ts';
import { changePreferences, preferencesOf } from './service.ts';

const categoryPath = z.strictObject({ id: idInPath });
const MOST_CATEGORIES = 40;
const nameTaken = () =>
  invalid([{ field: 'name', message: 'must not be the name of another category of yours' }]);
const noSuchCategory = () => new Problem(404, 'no-such-category', 'You have no such category.');

/** /api/preferences and /api/categories: what I have chosen for myself. */
export function preferencesRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api' });

  router.patch('/preferences', async (ctx) => {
    const change = readBody(changePreferencesRequest, ctx);
    await act(ctx, platform, async (tx, { me }) => {
      await changePreferences(tx, me, change);
      return { status: 200, body: { preferences: await preferencesOf(tx, me.id) } };
    });
  });

  const categories = async (tx: Transaction, me: Me, status = 200) => {
    announce(tx, [subjectOf('person', me.id), subjectOf('calendar', me.id)]);
    return { status, body: { categories: await readCategories(tx, me.id) } };
  };

  router.get('/categories', async (ctx) => {
    ctx.body = { categories: await readCategories(platform.pool, requireActor(ctx).me.id) };
  });

  router.post('/categories', async (ctx) => {
    const request = readBody(categoryRequest, ctx);
    await act(ctx, platform, async (tx, { me }) => {
      if ((await readCategories(tx, me.id)).length >= MOST_CATEGORIES) {
        throw invalid([{ field: 'name', message: `may be one of at most ${MOST_CATEGORIES}` }]);
      }
      if (!(await insertCategory(tx, me.id, request))) throw nameTaken();
      return categories(tx, me, 201);
    });
  });

  router.patch('/categories/:id', async (ctx) => {
    const { id } = read(categoryPath, ctx.params);
    const request = readBody(categoryRequest, ctx);
    await act(ctx, platform, async (tx, { me }) => {
      const outcome = await updateCategory(tx, me.id, id, request);
      if (outcome === 'taken') throw nameTaken();
      if (outcome === 'missing') throw noSuchCategory();
      return categories(tx, me);
    });
  });

  router.delete('/categories/:id', async (ctx) => {
    const { id } = read(categoryPath, ctx.params);
    await act(ctx, platform, async (tx, { me }) => {
      if (!(await deleteCategory(tx, me.id, id))) throw noSuchCategory();
      return categories(tx, me);
    });
  });

  return router;
}
