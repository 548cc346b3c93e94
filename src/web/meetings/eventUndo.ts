import type { EventDetail } from '../../contract/eventDetail.ts';
import type { NotifyScope, UndoEventRequest } from '../../contract/events.ts';
import { ApiProblem, errorText, offerUndo, callApi } from '../client/index.ts';
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
 * Tells of a change that was made, with a way to take it back: that change alone, whatever was
 * changed since.
 * @param change where the change is taken back, and the version it made
 */
export function offerEventUndo(
  text: string,
  change: { id: string; version: number },
  tell: NotifyScope,
  after: () => unknown,
): void {
  const before = standings.get(change.id);
  standings.set(change.id, {
    version: change.version,
    changes: [...(before?.changes ?? []), change.version],
  });
  offerUndo(text, async () => {
    try {
      const undone = await takeBack(change, tell);
      standings.set(change.id, {
        version: undone.version,
        changes: (standings.get(change.id)?.changes ?? []).filter((one) => one !== change.version),
      });
      // What others changed since stays, and is named.
      const left = undone.clockNotes.find((note) => note.startsWith('Changed again since'));
      tellUser(left ?? `Taken back: “${undone.title}” is as it was.`);
    } catch (error) {
      tellUser(errorText(error));
    }
    await after();
  });
}

/** Takes one change back; if somebody changed the event meanwhile, once more beside their change. */
async function takeBack(
  change: { id: string; version: number },
  tell: NotifyScope,
): Promise<EventDetail> {
  const undo = (version: number) =>
    callApi('POST /api/events/:id/undo', {
      params: { id: change.id },
      body: {
        version,
        change: change.version,
        tell,
      } satisfies UndoEventRequest,
    });
  try {
    return await undo(versionNow(change.id) ?? change.version);
  } catch (error) {
    const current =
      error instanceof ApiProblem && error.body.code === 'stale' && error.body.current;
    if (!current) throw error;
    return undo((current as EventDetail).version);
  }
}
