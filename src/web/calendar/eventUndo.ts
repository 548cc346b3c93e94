import type { EventDetail, UndoEventRequest } from '../../contract/events.ts';
import { errorText, sendApi } from '../app/api.ts';
import { offerUndo } from '../app/undo.ts';
import { tellUser } from '../design/notices.ts';

/** What this window knows of an event's changes: its version, and its own changes that still stand. */
interface Standing {
  version: number;
  changes: number[];
}

const standings = new Map<string, Standing>();

/** The version that an event has after what this window did to it, if it did anything. */
export const versionNow = (id: string): number | undefined => standings.get(id)?.version;

/**
 * Tells of a change that was made, with a way to take it back. Changes of one event are taken back
 * in the opposite order; one that others built upon says so.
 * @param change where the change is taken back, and the version it made
 */
export function offerEventUndo(
  text: string,
  change: { id: string; version: number },
  tell: 'everyone' | 'nobody',
  after: () => unknown,
): void {
  const before = standings.get(change.id);
  standings.set(change.id, {
    version: change.version,
    changes: [...(before?.changes ?? []), change.version],
  });
  offerUndo(text, async () => {
    const standing = standings.get(change.id);
    if (standing?.changes.at(-1) !== change.version) {
      tellUser('It was changed again since; take that back first.');
      return;
    }
    try {
      const undone = await sendApi<EventDetail>('POST', `/events/${change.id}/undo`, {
        version: standing.version,
        tell,
      } satisfies UndoEventRequest);
      standings.set(change.id, {
        version: undone.version,
        changes: standing.changes.slice(0, -1),
      });
      tellUser(`Taken back: “${undone.title}” is as it was.`);
    } catch (error) {
      tellUser(errorText(error));
    }
    await after();
  });
}
