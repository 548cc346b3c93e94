import type { Interval } from '../../core/time/interval.ts';
import type { WallTime } from '../../core/time/wall.ts';

/** A resource that an occurrence is to have, at the occurrence's own time. */
export interface ReservationRequest extends Interval {
  occurrenceId: number;
  /** The place of the occurrence in the rule; null for what happens once. */
  recurrenceId: WallTime | null;
  resourceId: number;
}
