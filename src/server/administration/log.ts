import type { HouseLog, LogQuery } from '../../contract/administration.ts';
import { MOST_LOGGED } from '../../contract/limits.ts';
import { LOGGED_WORDS } from '../../core/meetings/loggedWords.ts';
import type { MeetingFactKind } from '../../core/meetings/meetingFacts.ts';
import { addDays, startOfDay } from '../../core/time/wall.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Database } from '../db/transaction.ts';
import { readHouseLog, type HouseFact } from '../facts/index.ts';
import { csvLine } from '../http/index.ts';
import type { Platform } from '../platform.ts';
import { MOST_LOGGED_IN_FILE } from './limits.ts';

/** A part of the log of the house, the latest first, by the days of whoever reads it. */
export async function readLog(
  db: Database,
  platform: Platform,
  actor: PersonActor,
  query: LogQuery,
): Promise<HouseLog> {
  const facts = await readHouseLog(db, { ...filterOf(query, actor), most: MOST_LOGGED + 1 });
  return {
    entries: await inWords(db, platform, actor, facts.slice(0, MOST_LOGGED)),
    more: facts.length > MOST_LOGGED,
  };
}

function filterOf({ person, what, first, last, after }: LogQuery, { me }: PersonActor) {
  return {
    person: person ?? null,
    what: what ?? null,
    from: first ? startOfDay(first, me.zone) : null,
    to: last ? startOfDay(addDays(last, 1), me.zone) : null,
    before: after ?? null,
  };
}

async function inWords(
  db: Database,
  { histories }: Platform,
  actor: PersonActor,
  facts: readonly HouseFact[],
): Promise<HouseLog['entries']> {
  const said = new Map<number, string>();
  for (const history of histories) {
    const own = facts.filter(({ thing }) => thing === history.thing);
    if (own.length === 0) continue;
    const words = await history.say(db, actor, own);
    own.forEach(({ id }, k) => said.set(id, words[k]!));
  }
  return facts.map((fact) => ({
    id: fact.id,
    at: fact.at,
    actor: fact.actor,
    actedFor: fact.actedFor,
    thing: fact.thing ?? 'meeting',
    about: fact.thing === null ? null : String(fact.details.name ?? ''),
    what:
      fact.thing === null
        ? (LOGGED_WORDS[fact.kind as MeetingFactKind] ?? fact.kind)
        : (said.get(fact.id) ?? fact.kind),
    change: fact.change,
  }));
}

/** What of the log is wanted, as a file (CSV, RFC 4180), the latest first, with instants in UTC. */
export async function logFile(
  db: Database,
  platform: Platform,
  actor: PersonActor,
  query: LogQuery,
): Promise<string> {
  const filter = { ...filterOf(query, actor), most: MOST_LOGGED_IN_FILE };
  const entries = await inWords(db, platform, actor, await readHouseLog(db, filter));
  const lines = entries.map(({ at, actor: by, actedFor, thing, about, what }) =>
    csvLine([new Date(at).toISOString(), by ?? 'Marmot', actedFor ?? '', thing, about ?? '', what]),
  );
  return (
    csvLine(['at', 'who', 'in whose name', 'what it is', 'which', 'what was done']) + lines.join('')
  );
}
