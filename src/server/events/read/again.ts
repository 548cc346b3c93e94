import type { WallTime } from '../../../core/time/wall.ts';

/** The kind of answers that are an event, as whoever asked may see it. */
export const DETAIL = 'event';

/** What such an answer is made again from. */
export const detailAgain = (
  id: string,
  at: WallTime | null = null,
  /** In whose name it was asked for. */
  whom?: number,
) => ({ kind: DETAIL, id, at, whom });
