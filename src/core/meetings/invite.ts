import { Refusal } from '../refusal.ts';
import { refuseCancelled } from './change.ts';
import type { Invited } from './create.ts';
import { revised, type Decision } from './decision.ts';
import type { Meeting } from './meeting.ts';
import { askedAt, participantKey, peopleChange } from './people.ts';

/**
 * Asks more people to a meeting, as its organizer does or whoever is invited and may: those who are
 * there keep their roles and answers.
 * @param now epoch milliseconds
 * @throws Refusal when it is cancelled, or everybody named is asked already
 */
export function decideInviteAlso(
  before: Meeting,
  { invited, message }: { invited: readonly Invited[]; message: string },
  now: number,
): Decision {
  refuseCancelled(before);
  if (before.draft)
    throw new Refusal('not-sent', 'It is not sent yet; change whom it will ask instead.');
  const known = new Set(before.participants.map(participantKey));
  const news = invited.filter((one) => !known.has(participantKey(one)));
  if (news.length === 0)
    throw new Refusal('asked-already', 'Everybody you name is asked already.', {
      fields: [{ field: 'attendees', message: 'must name somebody who is not asked yet' }],
    });
  const draft = {
    ...before,
    participants: [...before.participants, ...news.map((one) => askedAt(one, now))],
  };
  const after = revised(before, draft, now);
  const { added } = peopleChange(before, after);
  return {
    changes: [{ before, after }],
    facts: [
      {
        kind: 'invited',
        meetingId: before.id,
        occurrence: null,
        tell: true,
        message,
        people: added,
        details: { added: added.map(participantKey) },
      },
    ],
    notes: [],
    answer: { id: before.id, occurrence: null },
    undo: { id: before.id, version: after.version },
  };
}
