import { z } from 'zod';
import { line } from './common.ts';
import { defineRoutes } from './route.ts';

export const searchQuery = z.strictObject({ q: line(100) });

/** Something that can join a line-up, found by a part of its name or address. */
export const found = z.union([
  z.strictObject({
    kind: z.literal('person'),
    id: z.int(),
    name: z.string(),
    email: z.string(),
    detail: z.string(),
  }),
  z.strictObject({
    kind: z.literal('team'),
    id: z.int(),
    name: z.string(),
    memberIds: z.array(z.int()),
    detail: z.string(),
  }),
  z.strictObject({
    kind: z.literal('resource'),
    id: z.int(),
    name: z.string(),
    resourceKind: z.string(),
    detail: z.string(),
  }),
]);
export type Found = z.output<typeof found>;

/** The names that a sentence can mean: people, teams, resources and sites. */
export const vocabulary = z.strictObject({
  people: z.array(
    z.strictObject({
      id: z.int(),
      name: z.string(),
      detail: z.string(),
    }),
  ),
  teams: z.array(
    z.strictObject({
      id: z.int(),
      name: z.string(),
      memberIds: z.array(z.int()),
    }),
  ),
  resources: z.array(
    z.strictObject({
      id: z.int(),
      name: z.string(),
      kind: z.string(),
      detail: z.string(),
    }),
  ),
  sites: z.array(
    z.strictObject({
      id: z.int(),
      name: z.string(),
      city: z.string(),
      zone: z.string(),
    }),
  ),
  /** What places have, by name. */
  features: z.array(z.string()),
});
export type Vocabulary = z.output<typeof vocabulary>;

/** /api/search: people, teams and places by a part of their name; /names: all of them. */
export const searchRoutes = defineRoutes({
  'GET /api/search': {
    may: 'read catalogue',
    query: searchQuery,
    answer: z.strictObject({ found: z.array(found) }),
    replica: true,
  },
  'GET /api/search/names': { may: 'read catalogue', answer: vocabulary, replica: true },
});
