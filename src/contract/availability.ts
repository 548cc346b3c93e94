import { z } from 'zod';
import type { Shift } from '../core/time/workingHours.ts';
import { instant, subjectId } from './common.ts';

const MOST_SUBJECTS = 2000;
const LONGEST_WINDOW_MS = 200 * 24 * 3_600_000;

export const busyRequest = z
  .strictObject({
    subjects: z
      .array(subjectId, { error: 'must be a list of ids' })
      .min(1, 'must name at least one person or resource')
      .max(MOST_SUBJECTS, `may name at most ${MOST_SUBJECTS} people and resources`),
    from: instant,
    to: instant,
  })
  .refine(({ from, to }) => from < to, { path: ['to'], message: 'must be later than "from"' })
  .refine(({ from, to }) => to - from <= LONGEST_WINDOW_MS, {
    path: ['to'],
    message: 'may be at most 200 days after "from"',
  });
export type BusyRequest = z.infer<typeof busyRequest>;

/** Start and end in epoch milliseconds, half-open, and how the time is taken. */
export type BusySpan = [start: number, end: number, occupancy: 'busy' | 'tentative' | 'away'];

export interface SubjectBusy {
  id: number;
  kind: 'person' | 'resource';
  name: string;
  /** Site and, for resources, seats; what a lane says beside the name. */
  detail: string;
  zone: string;
  /** Monday first; null where there are no hours of its own. */
  hours: Shift[][] | null;
  /** `none`: nothing is shared with the asker, which does not mean free. */
  knowledge: 'known' | 'none';
  /** Seats of a room; null for people and for things without seats. */
  seats: number | null;
  email: string | null;
  busy: BusySpan[];
}

export interface BusyResponse {
  subjects: SubjectBusy[];
}

export const openingsRequest = z
  .strictObject({
    lineUp: z
      .array(
        z.strictObject({
          id: subjectId,
          role: z.enum(['required', 'optional'], {
            error: 'must be "required" or "optional"',
          }),
        }),
      )
      .min(1, 'must name at least one person or resource')
      .max(MOST_SUBJECTS, `may name at most ${MOST_SUBJECTS} people and resources`),
    from: instant,
    to: instant,
    lengthMinutes: z
      .number({ error: 'must be a number of minutes' })
      .int('must be whole minutes')
      .min(5, 'must be at least 5 minutes')
      .max(7 * 24 * 60, 'may be at most 7 days'),
    rule: z.enum(['required', 'everyone']).default('required'),
    stretchMinutes: z.number().int().min(0).max(720).default(60),
    tentativeIsFree: z.boolean().default(false),
    limit: z.number().int().min(1).max(50).default(8),
  })
  .refine(({ from, to }) => from < to, { path: ['to'], message: 'must be later than "from"' })
  .refine(({ from, to }) => to - from <= LONGEST_WINDOW_MS, {
    path: ['to'],
    message: 'may be at most 200 days after "from"',
  });
export type OpeningsRequest = z.infer<typeof openingsRequest>;

export interface OpeningsResponse {
  count: number;
  openings: { start: number; end: number; score: number; reasons: string[] }[];
}
