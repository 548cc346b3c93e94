import { catalogueRoutes } from '../../contract/catalogue.ts';
import { implement } from '../http/index.ts';
import { placesFile } from './fileOut.ts';
import { importPlaces } from './import.ts';
import { readChoices } from './queries.ts';
import {
  addPlace,
  bringBack,
  changePlace,
  previewChange,
  previewRetirement,
  retire,
} from './service.ts';

export const catalogueApi = implement(catalogueRoutes, (platform) => {
  const { pool } = platform;
  return {
    'GET /api/catalogue/choices': () => readChoices(pool),
    'POST /api/catalogue/places': (tx, { actor, body }) => addPlace(tx, platform, actor, body),
    'PATCH /api/catalogue/places/:id': (tx, { actor, params, body }) =>
      changePlace(tx, platform, actor, params.id, body),
    'POST /api/catalogue/places/:id/preview': ({ actor, params, body, now }) =>
      previewChange(pool, actor, params.id, body, now),
    'GET /api/catalogue/places/:id/retire': ({ actor, params, now }) =>
      previewRetirement(pool, actor, params.id, now),
    'POST /api/catalogue/places/:id/retire': (tx, { actor, params, body }) =>
      retire(tx, platform, actor, params.id, body),
    'POST /api/catalogue/places/:id/return': async (tx, { actor, params }) => ({
      change: await bringBack(tx, platform, actor, params.id),
    }),
    'GET /api/catalogue/places.csv': async ({ actor, ctx }) => {
      ctx.attachment('places.csv');
      ctx.type = 'text/csv; charset=utf-8';
      ctx.body = await placesFile(pool, actor);
    },
    'POST /api/catalogue/import': (tx, { actor, body }) => importPlaces(tx, platform, actor, body),
  };
});
