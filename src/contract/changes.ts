import { z } from 'zod';
import { MOST_DISPLACED } from '../core/booking/replacing.ts';
import { idInPath, subjectId } from './common.ts';
import { MOST_PEOPLE_CHANGED, MOST_ROWS_OF_PLACES } from './limits.ts';
import { defineRoutes } from './route.ts';
import { MOST_LOGGED } from './limits.ts';

/** By which a change of something that is no meeting is taken back. */
export const changeNumber = z.int().positive();

/** As many as are changed at once. */
export const undoChangesRequest = z.strictObject({
  changes: z
    .array(subjectId, { error: 'must be a list of numbers of changes' })
    .min(1, 'must name a change')
    .max(MOST_PEOPLE_CHANGED, `may name at most ${MOST_PEOPLE_CHANGED} changes`)
    .refine((all) => new Set(all).size === all.length, { message: 'must name each change once' }),
});

export const changesUndone = z.strictObject({
  /** Changes of which something was taken back. */
  undone: z.int(),
  /** Changes that are taken back already, or that nobody remembers any more. */
  gone: z.int(),
  /** What was changed since and stays, in words. */
  left: z.array(z.string()),
  /** Bookings that went back with them, and those that were changed since and stay. */
  bookings: z.strictObject({
    undone: z.int().max(MOST_ROWS_OF_PLACES * MOST_DISPLACED),
    /** Of those, where something stays that was changed since. */
    partly: z.int(),
    left: z.int(),
  }),
});
export type ChangesUndone = z.output<typeof changesUndone>;

export const logQuery = z.strictObject({
  place: z.coerce.number().pipe(subjectId),
  /** The last entry that is there already; what follows it is earlier. */
  after: idInPath.optional(),
});

/** Something that was done to a thing. */
export const logEntry = z.strictObject({
  id: z.int(),
  at: z.int(),
  /** Null where the server did it by itself. */
  actor: z.string().nullable(),
  /** In whose name, where the actor acted for somebody. */
  actedFor: z.string().nullable(),
  /** What, as it stands behind the name of whoever did it. */
  what: z.string(),
  /** By which it is taken back; null where it is not, or not any more. */
  change: changeNumber.nullable(),
});
export type LogEntry = z.output<typeof logEntry>;

/** The latest first. */
export const logPage = z.strictObject({
  entries: z.array(logEntry).max(MOST_LOGGED),
  /** Whether there are earlier ones. */
  more: z.boolean(),
});

/** /api/changes: what was done to things that are no meetings, and taking it back. */
export const changesRoutes = defineRoutes({
  'GET /api/changes': {
    may: 'look-after places',
    query: logQuery,
    answer: logPage,
    replica: true,
  },
  'POST /api/changes/undo': {
    may: 'look-after places',
    cost: 'many',
    body: undoChangesRequest,
    answer: changesUndone,
  },
});
