import type { UndoneTogether } from '../../contract/events.ts';
import { counted } from '../../core/counted.ts';
import { tellUser } from '../design/notices.ts';
import { listClauses } from '../../core/listClauses.ts';
import { withdrawUndo } from './undo.ts';
import { callApi, errorText } from './api.ts';

/** Says what came of taking changes of several events back together. */
export async function takeBackTogether(takingBack: Promise<UndoneTogether>): Promise<void> {
  try {
    const { undone, partly, left } = await takingBack;
    tellUser(
      left + partly === 0
        ? 'Taken back: all of it is as it was.'
        : `${undone} of ${undone + left} taken back; what was changed since stays.`,
    );
  } catch (error) {
    tellUser(errorText(error));
  }
}

/**
 * Takes changes of things that are no meetings back, and says what came of it.
 * @param changes their numbers, as many as were made at once
 */
export async function takeChangesBack(changes: readonly number[]): Promise<void> {
  try {
    const { left, bookings } = await callApi('POST /api/changes/undo', {
      body: { changes: [...changes] },
    });
    withdrawUndo(changes);
    const stay = [
      ...left,
      ...(bookings.left > 0
        ? [`${counted(bookings.left, 'booking')}, changed since or begun by now`]
        : []),
      ...(bookings.partly > 0
        ? [`what was changed since of ${counted(bookings.partly, 'booking')}`]
        : []),
    ];
    tellUser(
      stay.length === 0
        ? 'Taken back: all of it is as it was.'
        : `Taken back. Left as it is: ${listClauses(stay)}.`,
    );
  } catch (error) {
    tellUser(errorText(error));
  }
}
