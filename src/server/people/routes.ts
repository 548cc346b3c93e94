import { peopleRoutes } from '../../contract/people.ts';
import { implement } from '../http/index.ts';
import { readDirectory } from './directory.ts';

export const peopleApi = implement(peopleRoutes, ({ pool }) => ({
  'GET /api/people': ({ actor, query }) => readDirectory(pool, actor.me.id, query),
}));
