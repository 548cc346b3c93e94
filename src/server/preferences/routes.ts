import { preferencesRoutes } from '../../contract/preferences.ts';
import { implement } from '../http/index.ts';
import { addCategory, changeCategory, removeCategory } from './categories.ts';
import { readCategories } from './queries.ts';
import { changePreferences, preferencesOf } from './service.ts';

export const preferencesApi = implement(preferencesRoutes, ({ pool }) => ({
  'PATCH /api/preferences': async (tx, { actor: { me }, body }) => {
    await changePreferences(tx, me, body);
    return { preferences: await preferencesOf(tx, me.id) };
  },
  'GET /api/categories': async ({ actor }) => ({
    categories: await readCategories(pool, actor.me.id),
  }),
  'POST /api/categories': (tx, { actor, body }) => addCategory(tx, actor.me.id, body),
  'PATCH /api/categories/:id': (tx, { actor, params, body }) =>
    changeCategory(tx, actor.me.id, params.id, body),
  'DELETE /api/categories/:id': (tx, { actor, params }) =>
    removeCategory(tx, actor.me.id, params.id),
}));
