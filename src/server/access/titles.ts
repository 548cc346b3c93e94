import { showsTitle } from '../../core/availability/busy.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Database } from '../db/transaction.ts';
import { Levels, isShownIt } from './levels.ts';
import { readMeetingFacts } from './queries.ts';
import { reveal, type Unprojected } from './unprojected.ts';

/**
 * Of which of some events an actor sees the title, by id, on whatever road they came to them: as stewards of a
 * place they see what is in it, and no more of what it is for than anybody else.
 */
export async function titlesSeen(
  db: Database,
  actor: PersonActor,
  eventIds: readonly string[],
): Promise<ReadonlySet<string>> {
  if (eventIds.length === 0) return new Set();
  const facts = await readMeetingFacts(db, [...new Set(eventIds)]);
  const levels = await Levels.of(
    db,
    actor,
    facts.map((one) => one.organizerId),
  );
  const isSeen = ({ organizerId, visibility, people }: (typeof facts)[number]) =>
    showsTitle(
      levels.event({
        organizerId,
        visibility,
        takesPart: isShownIt(actor, { people, visibility }),
      }),
    );
  return new Set(facts.filter(isSeen).map((one) => one.id));
}

/** The title of an event, where it is among those of which it is seen. */
export const titleIn = (
  seen: ReadonlySet<string>,
  { eventId, title }: { eventId: string; title: Unprojected<string> },
): string | null => (seen.has(eventId) ? reveal(title) : null);
