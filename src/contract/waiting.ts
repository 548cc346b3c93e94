import { z } from 'zod';
import { idInPath, instant, line, subjectId } from './common.ts';

/** As many times as somebody may wait for. */
export const MOST_WAITED_FOR = 20;

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

export const waitPath = z.strictObject({ id: idInPath });

/** A time for which I wait. */
export interface Waited {
  id: number;
  placeId: number;
  place: string;
  site: string;
  zone: string;
  start: number;
  end: number;
  title: string;
  wants: 'told' | 'given';
  /** Until when it is held for me, since it came free; null while it is taken. */
  offeredUntil: number | null;
  /** How many asked for some of the same time before me. */
  before: number;
}

export interface WaitedResponse {
  waiting: Waited[];
}
