import { searchRoutes } from '../../contract/search.ts';
import { implement } from '../http/index.ts';
import { findSubjects, readVocabulary } from './queries.ts';
import { MOST_OF_A_KIND } from './limits.ts';

export const searchApi = implement(searchRoutes, ({ pool }) => ({
  'GET /api/search': async ({ query: { q } }) => ({
    found: q ? await findSubjects(pool, q, MOST_OF_A_KIND) : [],
  }),
  'GET /api/search/names': () => readVocabulary(pool),
}));
