import { queryOptions } from '@tanstack/react-query';
import type { AnswerOf } from '../../contract/route.ts';
import type { Routes } from '../../contract/routes.ts';
import { callApi, type Arguments } from './api.ts';
import type { ReadRoute } from './subjects.ts';

export type AnswerTo<Name extends keyof Routes> = AnswerOf<Routes[Name]>;

/**
 * What the server answers by a route, as it is kept: under the route and what is given with it. What makes
 * it out of date is said for each route in `subjects.ts`.
 */
export const answerTo = <Name extends ReadRoute>(name: Name, ...given: Arguments<Name>) =>
  queryOptions<AnswerTo<Name>, Error, AnswerTo<Name>, readonly unknown[]>({
    queryKey: [name, given[0] ?? {}],
    queryFn: ({ signal }) =>
      callApi(name, ...([given[0] ?? {}, signal] as unknown as [...Arguments<Name>, AbortSignal])),
  });
