import { z } from 'zod';
import { line } from './common.ts';
import { page } from './paging.ts';
import { week } from './values.ts';
import { defineRoutes } from './route.ts';

/** People whose name, work, site or team holds some words, a part of them at a time. */
export const peopleQuery = z.strictObject({ q: line(100).default(''), ...page });
export type PeopleQuery = z.output<typeof peopleQuery>;

export const person = z.strictObject({
  id: z.int(),
  name: z.string(),
  email: z.string(),
  jobTitle: z.string(),
  zone: z.string(),
  site: z.string().nullable(),
  organization: z.string(),
  isPartner: z.boolean(),
  teams: z.array(z.string()),
  /** Monday first. */
  hours: week,
});
export type Person = z.output<typeof person>;

export const team = z.strictObject({
  id: z.int(),
  name: z.string(),
  memberIds: z.array(z.int()),
});
export type Team = z.output<typeof team>;

/** A part of the people there are: the reader’s own site first, then by site and name. */
export const directory = z.strictObject({
  people: z.array(person),
  /** How many there are in all. */
  total: z.int(),
  /** Nobody is spelt as was asked; these come close. */
  isForgiven: z.boolean(),
  /** With the first part: the teams whose name fits. */
  teams: z.array(team),
});
export type Directory = z.output<typeof directory>;

/** /api/people: the directory, a part at a time. */
export const peopleRoutes = defineRoutes({
  'GET /api/people': {
    may: 'read catalogue',
    query: peopleQuery,
    answer: directory,
    replica: true,
  },
});
