import { z } from 'zod';
import { byId, instant, line, subjectId } from './common.ts';
import { defineRoutes } from './route.ts';

/** Waits for a place that is taken: to be asked first, or to have it at once, when it comes free. */
export const waitRequest = z
  .strictObject({
    placeId: subjectId,
    start: instant,
    end: instant,
    /** What it is for; the place's name where nothing is said. */
    title: line(200).default(''),
    wants: z.enum(['told', 'given'], { error: 'must be "told" or "given"' }),
  })
  .refine(({ start, end }) => end > start, { path: ['end'], message: 'must be after the start' });
export type WaitRequest = z.input<typeof waitRequest>;

/** A time for which I wait. */
export const waited = z.strictObject({
  id: z.int(),
  placeId: z.int(),
  place: z.string(),
  site: z.string(),
  zone: z.string(),
  start: z.int(),
  end: z.int(),
  title: z.string(),
  wants: z.enum(['told', 'given']),
  /** Until when it is held for me, since it came free; null while it is taken. */
  offeredUntil: z.int().nullable(),
  /** What holds it for me meanwhile. */
  eventId: z.uuid().nullable(),
  /** How many asked for some of the same time before me. */
  before: z.int(),
});
export type Waited = z.output<typeof waited>;

export const waitedResponse = z.strictObject({
  waiting: z.array(waited),
});
export type WaitedResponse = z.output<typeof waitedResponse>;

const waitResponse = z.strictObject({ id: z.int() });
const takenOffer = z.strictObject({ eventId: z.uuid() });

/** /api/waiting: times for which somebody waits, and what came free of them. */
export const waitingRoutes = defineRoutes({
  'GET /api/waiting': { may: 'read own', answer: waitedResponse, replica: true },
  'POST /api/waiting': { may: 'change own', body: waitRequest, answer: waitResponse, status: 201 },
  'POST /api/waiting/:id/take': { may: 'change own-by-id', params: byId, answer: takenOffer },
  'DELETE /api/waiting/:id': {
    may: 'change own-by-id',
    params: byId,
    answer: z.strictObject({ waits: z.boolean() }),
  },
});
