import { z } from 'zod';
import type { Shift } from '../core/time/workingHours.ts';
import { line } from './common.ts';
import { page } from './paging.ts';

/** People whose name, work, site or team holds some words, a part of them at a time. */
export const peopleQuery = z.strictObject({ q: line(100).default(''), ...page });
export type PeopleQuery = z.output<typeof peopleQuery>;

export interface Person {
  id: number;
  name: string;
  email: string;
  jobTitle: string;
  zone: string;
  site: string | null;
  organization: string;
  isPartner: boolean;
  teams: string[];
  /** Monday first. */
  hours: Shift[][];
}

export interface Team {
  id: number;
  name: string;
  memberIds: number[];
}

/** A part of the people there are: the reader’s own site first, then by site and name. */
export interface Directory {
  people: Person[];
  /** How many there are in all. */
  total: number;
  /** Nobody is spelt as was asked; these come close. */
  isForgiven: boolean;
  /** With the first part: the teams whose name fits. */
  teams: Team[];
}
