import type { Shift } from '../core/time/workingHours.ts';

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

export interface Directory {
  people: Person[];
  teams: Team[];
}
