import {
  decideEnd,
  decideHandOver,
  decideLeave,
  type Successor,
} from '../../../core/meetings/leave.ts';
import { participantKey } from '../../../core/meetings/people.ts';
import type { MeetingFact } from '../../../core/meetings/meetingFacts.ts';
import type { Meeting } from '../../../core/meetings/meeting.ts';
import type { Actor } from '../../actions/index.ts';
import type { Transaction } from '../../db/transaction.ts';
import type { ChangeOf } from '../../facts/index.ts';
import type { Platform } from '../../platform.ts';
import type { StoredMeeting } from '../store/read.ts';
import { carryOutTogether } from './carryOut.ts';
import { newMeetingId } from './create.ts';

/** What becomes of what somebody who leaves organizes: whose it is then, or that it ends. */
export type Fate = { to: Successor } | 'end';

/**
 * Hands over or ends what somebody organizes, and takes them out of what others do: all of it, or nothing. Those
 * outside hear of it meeting by meeting, as their calendar programs do; those here from whoever calls this.
 * @param meetings all of them, held
 * @param fates by the id of what they organize; of all others they are taken out
 * @returns by what each meeting's change is taken back
 */
export async function leaveMeetings(
  tx: Transaction,
  platform: Platform,
  actor: Actor,
  meetings: ReadonlyMap<string, StoredMeeting>,
  person: Successor,
  fates: ReadonlyMap<string, Fate>,
  messageOf: (fate: Fate) => string,
): Promise<ChangeOf[]> {
  const now = platform.clock.now();
  const there = await withRegrets(tx, platform, actor, meetings, person.personId);
  const decided = [...there.values()].map((meeting) => {
    const fate = fates.get(meeting.id);
    if (meeting.organizerId !== person.personId || !fate)
      return decideLeave(meeting, person.personId, now);
    return fate === 'end'
      ? decideEnd(meeting, messageOf(fate), { now, newId: newMeetingId(meeting.uid) })
      : decideHandOver(meeting, fate.to, messageOf(fate), now);
  });
  await carryOutTogether(tx, platform, actor, there, decided, {
    areUndoneApart: true,
    agreesToNothing: true,
  });
  return decided.flatMap(({ changes }) =>
    changes.flatMap(({ before, after }) =>
      before && after && meetings.has(before.id) ? [{ id: after.id, version: after.version }] : [],
    ),
  );
}

/** Lets organizers elsewhere know that somebody does not come, while they are still asked. */
async function withRegrets(
  tx: Transaction,
  platform: Platform,
  actor: Actor,
  meetings: ReadonlyMap<string, StoredMeeting>,
  personId: number,
): Promise<ReadonlyMap<string, StoredMeeting>> {
  const now = platform.clock.now();
  const key = participantKey({ personId, email: '' });
  const regrets = [...meetings.values()].flatMap((before) => {
    const who = before.participants.find((one) => participantKey(one) === key);
    if (before.organizerId !== null || !who || who.reply === 'declined') return [];
    const after: Meeting = {
      ...before,
      version: before.version + 1,
      participants: before.participants.map((one) =>
        one === who
          ? { ...one, reply: 'declined', repliedAt: now, stamp: now, occurrences: {} }
          : one,
      ),
    };
    const fact: MeetingFact = {
      kind: 'replied',
      meetingId: before.id,
      occurrence: null,
      tell: false,
      message: '',
      details: { attendee: who.id, reply: 'declined' },
    };
    return [{ changes: [{ before, after }], facts: [fact] }];
  });
  if (regrets.length === 0) return meetings;
  await carryOutTogether(tx, platform, actor, meetings, regrets);
  const declined = new Map(
    regrets.flatMap(({ changes }) => changes.map(({ after }) => [after.id, after])),
  );
  return new Map(
    [...meetings].map(([id, one]) => [id, { ...one, ...declined.get(id) } as StoredMeeting]),
  );
}
