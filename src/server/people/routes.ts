import { peopleRoutes } from '../../contract/people.ts';
import { implement } from '../http/index.ts';
import { directory } from './directory.ts';

export const peopleApi = implement(peopleRoutes, ({ pool }) => ({
  'GET /api/people': ({ actor, query }) => directory(pool, actor.me.id, query),
}));
