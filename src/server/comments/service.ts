import type { CommentsResponse, NewComment } from '../../contract/comments.ts';
import { peopleOf, type Meeting } from '../../core/meetings/meeting.ts';
import { invalid, Refusal } from '../../core/refusal.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { lockVisibleMeeting, mayChangeIt, noteOf, visibleMeeting } from '../events/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import { forgetAbout } from '../notifications/index.ts';
import type { Platform } from '../platform.ts';
import {
  changeComment,
  countComments,
  insertComment,
  markRemoved,
  readComment,
  readComments,
  type StoredComment,
} from './queries.ts';
import { MOST_COMMENTS } from './limits.ts';

/** Who reads what somebody writes: all who take part, or the organizer where the list is not shown. */
const isOpen = ({ rights }: Pick<Meeting, 'rights'>) => rights.list || rights.change;

/**
 * What is said about a meeting, as far as the actor may read it: those who take part, and whoever may
 * change it.
 * @throws Refusal when they are not invited
 */
export async function commentsFor(
  db: Database,
  actor: PersonActor,
  eventId: string,
): Promise<CommentsResponse> {
  const meeting = await visibleMeeting(db, actor, eventId);
  const mayChange = await refuseStrangers(db, actor, meeting);
  const comments = await readComments(db, eventId);
  const organizer = meeting.participants.find((one) => one.role === 'organizer')!;
  const open = isOpen(meeting) || mayChange;
  return {
    comments: comments
      .filter((one) => open || isBetween(one, actor, meeting))
      .map(({ removed: _, ...one }) => ({
        ...one,
        canChange: one.authorId === actor.me.id,
        canRemove: one.authorId === actor.me.id || mayChange,
      })),
    readBy: open ? 'everybody' : 'organizer',
    organizer: organizer.name,
    people: meeting.participants
      .filter((one) => open || one === organizer)
      .flatMap(({ personId, name }) =>
        personId === null || personId === actor.me.id ? [] : [{ id: personId, name }],
      ),
  };
}

const isBetween = ({ authorId }: StoredComment, actor: PersonActor, meeting: Meeting) =>
  authorId === meeting.organizerId || actor.principals.includes(authorId);

/** @returns whether the actor may change the meeting */
async function refuseStrangers(
  db: Database,
  actor: PersonActor,
  meeting: Parameters<typeof mayChangeIt>[2],
): Promise<boolean> {
  const mayChange = await mayChangeIt(db, actor, meeting);
  const takesPart = peopleOf(meeting).some((id) => actor.principals.includes(id));
  if (!mayChange && !takesPart)
    throw new Refusal('not-invited', 'Only those who take part write and read about it.');
  return mayChange;
}

/**
 * Says something about a meeting; those who read it hear of it.
 * @throws Refusal when the actor is not invited, names somebody who cannot be spoken to, or there is
 *   too much already
 */
export async function say(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  eventId: string,
  { words, mentions }: NewComment,
): Promise<void> {
  const meeting = await lockVisibleMeeting(tx, actor, eventId);
  const { people } = await commentsFor(tx, actor, eventId);
  const known = new Set(people.map((one) => one.id));
  mentions.forEach((id, k) => {
    if (!known.has(id))
      throw invalid([{ field: `mentions.${k}`, message: 'must be somebody who reads it' }]);
  });
  if ((await countComments(tx, eventId)) >= MOST_COMMENTS)
    throw invalid([
      { field: 'words', message: `may be one of at most ${MOST_COMMENTS} about a meeting` },
    ]);
  const now = platform.clock.now();
  const comment = await insertComment(tx, eventId, actor.me.id, { words, mentions }, now);
  const details = { comment, mentions, by: actor.me.id };
  await noteOf(tx, platform, actor, meeting, 'commented', details, { quoted: words });
}

/** One's own comment, or one that may be removed, held until the transaction ends. */
async function ownComment(
  tx: Transaction,
  actor: PersonActor,
  eventId: string,
  id: number,
  act: 'change' | 'remove',
): Promise<StoredComment> {
  const meeting = await lockVisibleMeeting(tx, actor, eventId);
  const mayChange = await refuseStrangers(tx, actor, meeting);
  const comment = await readComment(tx, eventId, id);
  const isMine = comment?.authorId === actor.me.id;
  const isSeen =
    isMine || mayChange || isOpen(meeting) || (comment && isBetween(comment, actor, meeting));
  if (!comment || !isSeen) throw new Refusal('no-such-comment', 'There is no such comment of it.');
  if (!isMine && (act === 'change' || !mayChange))
    throw new Refusal('not-allowed', `${comment.author} wrote this; it is not yours to ${act}.`);
  return comment;
}

/** Writes a comment of one's own anew. @throws Refusal when it is somebody else's, or removed */
export async function rewrite(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  eventId: string,
  id: number,
  words: string,
): Promise<void> {
  const comment = await ownComment(tx, actor, eventId, id, 'change');
  if (comment.removed) throw new Refusal('no-such-comment', 'It was removed; bring it back first.');
  changeComment(tx, id, words, platform.clock.now());
  announce(tx, [subjectOf('meeting', eventId)]);
}

/** Removes a comment, or brings it back. @throws Refusal when that is not theirs to do */
export async function remove(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  eventId: string,
  id: number,
  removed: boolean,
): Promise<void> {
  await ownComment(tx, actor, eventId, id, 'remove');
  markRemoved(tx, id, removed ? platform.clock.now() : null);
  // What was taken back is not read behind the bell either.
  if (removed) forgetAbout(tx, eventId, { comment: id });
  announce(tx, [subjectOf('meeting', eventId)]);
}
