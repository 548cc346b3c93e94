import { addressKey } from '../../core/mailAddress.ts';
import { factDetail, type MeetingFact } from '../../core/meetings/meetingFacts.ts';
import type { Meeting, Participant } from '../../core/meetings/meeting.ts';
import { participantKey } from '../../core/meetings/people.ts';
import {
  TIDING_KINDS,
  tidings,
  type Tiding,
  type TidingKind,
} from '../../core/meetings/tidings.ts';
import type { Transaction } from '../db/transaction.ts';
import type { Happened } from '../facts/index.ts';
import { takeHeldLetters, type TakenLetter } from '../mail/index.ts';
import { readBefore, versionKey } from './heldQueries.ts';

/** Whether a letter tells what is known again from how a meeting was and how it is. */
export const isTiding = (kind: string): kind is TidingKind =>
  TIDING_KINDS.some((one) => one === kind);

/** What happens without the meeting being otherwise than letters say. */
const LEAVES_IT_AS_IT_IS: ReadonlySet<string> = new Set<MeetingFact['kind']>([
  'replied',
  'proposed',
  'proposal-declined',
  'nudged',
  'resent',
  'no-show-soon',
]);

/** A letter in place of those that were held for somebody. */
export interface Instead extends Tiding {
  to: Participant;
  /** The meeting as it is, or as it last was. */
  meeting: Meeting;
  /** As they last heard of it; null where they never did. */
  before: Meeting | null;
  /** Words of whoever sends it, of all that is still so. */
  message: string;
  /** Since when something is held for them, epoch milliseconds. */
  since: number;
}

/** Letters in place of held ones, and whose held ones were taken back, by meeting. */
export interface Rewritten {
  letters: Instead[];
  /** Addresses, in lower case. */
  rewritten: ReadonlyMap<string, ReadonlySet<string>>;
}

type Decided = Pick<Happened<MeetingFact>, 'facts' | 'changes'>;

const ahead = new WeakMap<Transaction, Promise<TakenLetter[]>>();

/** Meetings that were, and are otherwise than letters that are held may say. */
function otherwiseNow({ facts, changes }: Decided): Meeting[] {
  const concerned = new Set(
    facts.filter(({ kind }) => !LEAVES_IT_AS_IT_IS.has(kind)).map((one) => one.meetingId),
  );
  return changes.flatMap(({ before, after }) =>
    before && (concerned.has(before.id) || after === null) ? [before] : [],
  );
}

/** Begins to take back the letters that are held about what was decided, so that nobody waits for it later. */
export function foreseeHeld(tx: Transaction, decided: Decided): void {
  const ids = otherwiseNow(decided).map((one) => one.id);
  if (ids.length === 0) return;
  const taken = takeHeldLetters(tx, ids);
  // Whoever needs them hears of its failure; else the transaction does.
  taken.catch(() => undefined);
  ahead.set(tx, taken);
}

/**
 * Takes the letters that were held about meetings that are otherwise now, and says what is to be written in their
 * stead: what is different between what their receivers last heard and what is. What says nothing any more is not
 * written. Two statements, however many they are; one, which was sent ahead, where nothing is held.
 */
export async function rewriteHeld(
  tx: Transaction,
  happened: Happened<MeetingFact>,
): Promise<Rewritten> {
  const { facts, meetings, gone } = happened;
  const standing = otherwiseNow(happened);
  const taken = (await ahead.get(tx)) ?? [];
  ahead.delete(tx);
  const versions = taken.flatMap(({ eventId, beforeVersion }) =>
    beforeVersion === null ? [] : [{ eventId, version: beforeVersion }],
  );
  const known = await readBefore(tx, [
    ...new Map(versions.map((one) => [versionKey(one), one])).values(),
  ]);
  const letters: Instead[] = [];
  const rewritten = new Map<string, Set<string>>();
  for (const [first, ...more] of bySomebody(taken)) {
    const { eventId, email, beforeVersion } = first;
    const addresses = rewritten.get(eventId);
    if (addresses) addresses.add(email);
    else rewritten.set(eventId, new Set([email]));
    const last = standing.find((one) => one.id === eventId)!;
    const meeting = meetings.get(eventId) ?? last;
    const before =
      beforeVersion === null
        ? null
        : (known.get(versionKey({ eventId, version: beforeVersion })) ?? last);
    const ofThem = (some: Meeting | null) =>
      some?.participants.find((person) => addressKey(person.email) === email);
    const there = ofThem(meeting);
    const left = ofThem(last) ?? ofThem(before);
    // Whoever is asked no more has no number among those who are.
    const to = there ?? (left && { ...left, id: 0 });
    if (!to) continue;
    const after = gone.has(eventId) ? null : meeting;
    const message = wordsOf([first, ...more], to, facts);
    for (const tiding of tidings(before, after, participantKey(to), kindOf(first)))
      letters.push({ ...tiding, to, meeting, before, message, since: first.since });
  }
  return { letters, rewritten };
}

const kindOf = ({ occasion }: TakenLetter): TidingKind =>
  isTiding(occasion) ? occasion : 'invited';

/** Letters of one meeting to one receiver, the oldest first. */
function bySomebody(taken: readonly TakenLetter[]): [TakenLetter, ...TakenLetter[]][] {
  const groups = new Map<string, [TakenLetter, ...TakenLetter[]]>();
  for (const one of taken) {
    const key = `${one.eventId} ${one.email}`;
    const group = groups.get(key);
    if (group) group.push(one);
    else groups.set(key, [one]);
  }
  return [...groups.values()];
}

/** What was said in letters, and is said now; what is undone is said no more. */
function wordsOf(
  letters: readonly TakenLetter[],
  to: Participant,
  facts: readonly MeetingFact[],
): string {
  const [{ eventId }] = letters as [TakenLetter];
  const ofThis = facts.filter((one) => one.meetingId === eventId);
  const undone = new Set(ofThis.map((one) => factDetail(one, 'undone')));
  const now = ofThis.filter(
    ({ tell, people }) =>
      tell && (!people || people.some((one) => participantKey(one) === participantKey(to))),
  );
  const words = [
    ...letters.filter((one) => !undone.has(one.version)).map((one) => one.said),
    ...now.map((one) => one.message),
  ];
  return [...new Set(words.filter((one) => one !== ''))].join('\n\n');
}
