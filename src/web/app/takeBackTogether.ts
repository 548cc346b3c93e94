import type { UndoneTogether, UndoTogetherRequest } from '../../contract/events.ts';
import { tellUser } from '../design/notices.ts';
import { errorText, sendApi } from './api.ts';

/** Takes changes of several events back together, and says what came of it. */
export async function takeBackTogether(
  address: string,
  changes: UndoTogetherRequest['changes'],
): Promise<void> {
  try {
    const { undone, left } = await sendApi<UndoneTogether>('POST', address, { changes });
    tellUser(
      left === 0
        ? 'Taken back: all of it is as it was.'
        : `${undone} of ${undone + left} taken back; the others were changed since and stay.`,
    );
  } catch (error) {
    tellUser(errorText(error));
  }
}
