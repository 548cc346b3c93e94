import type { UndoneTogether } from '../../contract/events.ts';
import { tellUser } from '../design/notices.ts';
import { errorText } from './api.ts';

/** Says what came of taking changes of several events back together. */
export async function takeBackTogether(takingBack: Promise<UndoneTogether>): Promise<void> {
  try {
    const { undone, left } = await takingBack;
    tellUser(
      left === 0
        ? 'Taken back: all of it is as it was.'
        : `${undone} of ${undone + left} taken back; the others were changed since and stay.`,
    );
  } catch (error) {
    tellUser(errorText(error));
  }
}
