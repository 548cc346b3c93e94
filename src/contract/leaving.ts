import { z } from 'zod';
import { changeNumber } from './changes.ts';
import { byId, subjectId, versionRead } from './common.ts';
import { MOST_HELD } from './limits.ts';
import { defineRoutes, nothing } from './route.ts';

const named = z.strictObject({ id: z.int(), name: z.string() });

/** Somebody, or a team among whom it is shared. */
export const successor = z.union(
  [z.strictObject({ personId: subjectId }), z.strictObject({ teamId: subjectId })],
  { error: 'must be the number of a person or of a team' },
);
export type Successor = z.output<typeof successor>;

export const holdingsQuery = z
  .strictObject({
    person: z.coerce.number().pipe(subjectId).optional(),
    team: z.coerce.number().pipe(subjectId).optional(),
  })
  .refine(({ person, team }) => person === undefined || team === undefined, {
    path: ['team'],
    message: 'can be given only without a person',
  });
export type HoldingsQuery = z.output<typeof holdingsQuery>;

const heldEvent = z.strictObject({
  id: z.uuid(),
  /** As far as whoever asks may see it; null where they may not. */
  title: z.string().nullable(),
  places: z.array(z.string()),
  /** Its next date to come; epoch milliseconds. */
  start: z.int(),
  recurring: z.boolean(),
  draft: z.boolean(),
  /** Who else is asked, or would be. */
  others: z.int(),
  /** Whether only somebody who takes part already can have it; else it ends. */
  isPrivate: z.boolean(),
  /** Who would have it, of the person or team that is asked about, and whether all its next dates suit them. */
  to: named.extend({ free: z.boolean() }).nullable(),
});
export type HeldEvent = z.output<typeof heldEvent>;

/** What somebody has that is to come. */
export const holdings = z.strictObject({
  person: z.strictObject({ id: z.int(), name: z.string(), version: z.int() }),
  /** With others, who wait for an answer to who organizes it. */
  meetings: z.array(heldEvent),
  /** Places and equipment without anybody else. */
  bookings: z.array(heldEvent),
  /** Their own time, of nobody else's concern: it ends with them. */
  own: z.int(),
  /** Meetings of others that they take part in. */
  invitations: z.int(),
  desks: z.array(named),
  /** Places that they wait for. */
  waiting: z.int(),
  /** For whom they act, and who acts for them. */
  actsFor: z.array(named),
  actedForBy: z.array(named),
  leads: z.array(named),
  teams: z.int(),
  /** Where they are signed in. */
  sessions: z.int(),
});
export type Holdings = z.output<typeof holdings>;

/** What becomes of something: whose it is then, or that it ends. */
export const fate = z.union(
  [z.strictObject({ to: successor }), z.strictObject({ end: z.literal(true) })],
  {
    error: 'must be { "to": … } or { "end": true }',
  },
);
export type Fate = z.output<typeof fate>;

export const leaveRequest = z.strictObject({
  version: versionRead,
  /** How many there were when it was looked at: where others came since, nothing is done. */
  seen: z.strictObject({ meetings: z.int(), bookings: z.int() }),
  meetings: fate,
  bookings: fate,
  /** Those of them that another thing becomes of. */
  except: z
    .array(z.strictObject({ id: z.uuid('must be the id of an event'), fate }))
    .max(MOST_HELD, `may name at most ${MOST_HELD} events`)
    .refine((all) => new Set(all.map(({ id }) => id)).size === all.length, {
      message: 'must name each event once',
    })
    .default([]),
  /** Whose their desks and places are then; null gives them back. */
  desksTo: subjectId.nullable().default(null),
});
export type LeaveRequest = z.input<typeof leaveRequest>;
export type Leave = z.output<typeof leaveRequest>;

export const left = z.strictObject({
  change: changeNumber,
  handedOver: z.int(),
  ended: z.int(),
  /** Meetings of others that they are taken out of. */
  leftOut: z.int(),
  /** People here who have a letter about it. */
  letters: z.int(),
});
export type Left = z.output<typeof left>;

export const leavingRoutes = defineRoutes({
  'GET /api/administration/people/:id/holdings': {
    may: 'administer organization',
    cost: 'many',
    params: byId,
    query: holdingsQuery,
    answer: holdings,
  },
  /** Lets the name and address of somebody who left go from everything; it is not taken back. */
  'POST /api/administration/people/:id/forget': {
    may: 'administer organization',
    params: byId,
    body: z.strictObject({ version: versionRead }),
    answer: nothing,
  },
  'POST /api/administration/people/:id/leave': {
    may: 'administer organization',
    cost: 'many',
    params: byId,
    body: leaveRequest,
    answer: left,
  },
});
