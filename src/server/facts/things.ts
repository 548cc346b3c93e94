import type { Edit } from '../../core/edits.ts';
import type { ThingFact, ThingKind } from '../../core/facts.ts';
import { actorId, type Actor, type PersonActor } from '../actions/index.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { DIRECTORY, subjectOf } from '../live/index.ts';
import type { Platform } from '../platform.ts';
import { foresee, publish } from './consumers.ts';
import {
  insertThingRevisions,
  recordFacts,
  type ChangeOf,
  type LoggedFact,
  type ThingRevision,
} from './queries.ts';

/** A change of something that is no meeting, as it was just made. */
export interface ThingChange {
  fact: ThingFact;
  /** By which it is taken back; none where it is not. */
  edits?: readonly Edit[];
  /** Changes of meetings that were made with it, and are taken back with it. */
  meetings?: readonly ChangeOf[];
}

/** What came of taking changes of things back. */
export interface ThingsTakenBack {
  /** The revisions of which something was taken back. */
  done: readonly number[];
  /** What was changed since and stays, in words, such as `seats of Gannet`. */
  left: readonly string[];
  /** Changes of meetings that went with them: those taken back, of how many in part alone, and those that stay. */
  meetings: { undone: number; partly: number; left: number };
}

/** A kind of thing whose changes are said and taken back. */
export interface ThingHistory {
  thing: ThingKind;
  /**
   * What happened to things, each as it stands behind the name of whoever did it.
   * @throws Refusal unless the actor may know
   */
  say(db: Database, actor: PersonActor, facts: readonly LoggedFact[]): Promise<string[]>;
  /**
   * Takes changes back, the latest first, as far as nobody has changed since what they touched.
   * @throws Refusal unless the actor may change such things; where it cannot be as it was
   */
  takeBack(
    tx: Transaction,
    platform: Platform,
    actor: PersonActor,
    revisions: readonly ThingRevision[],
  ): Promise<ThingsTakenBack>;
}

/** What windows show of a thing. */
const shownAs = ({ thing, thingId }: ThingFact): string[] =>
  thing === 'place'
    ? [subjectOf('resource', thingId)]
    : [DIRECTORY, ...(thing === 'person' ? [subjectOf('person', thingId)] : [])];

/**
 * Keeps what was done to things, how each is taken back, and tells those who tell of it: as `commit` of
 * meetings does, in as many statements for many as for one.
 * @returns the number by which each is taken back; null where it is not
 */
export async function commitThings(
  tx: Transaction,
  platform: Platform,
  actor: Actor,
  changes: readonly ThingChange[],
): Promise<(number | null)[]> {
  if (changes.length === 0) return [];
  const now = platform.clock.now();
  const facts = changes.map(({ fact }) => fact);
  const happened = { facts, changes: [] };
  foresee(tx, platform, happened);
  const kept = changes.filter(({ edits = [] }) => edits.length > 0);
  const ids = await insertThingRevisions(
    tx,
    kept.map(({ fact: { thing, thingId }, edits = [], meetings = [] }) => ({
      ...{ thing, thingId, edits, meetings },
    })),
    actorId(actor),
    now,
  );
  const revisionOf = new Map(kept.map((change, k) => [change, ids[k]!]));
  await publish(tx, platform, actor, {
    ...happened,
    ...{ meetings: new Map(), resources: new Map(), gone: new Set() },
  });
  recordFacts(tx, {
    facts: changes.map((change) => ({
      ...change.fact,
      revisionId: revisionOf.get(change) ?? null,
    })),
    actorId: actorId(actor),
    actedFor: actor.kind === 'person' && actor.by ? actor.me.id : null,
    revisions: [],
    subjects: [...new Set(facts.flatMap(shownAs))],
    now,
  });
  return changes.map((change) => revisionOf.get(change) ?? null);
}
