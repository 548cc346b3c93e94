import { organizerHere, type Meeting, type Participant } from '../../core/meetings/meeting.ts';
import type { Database } from '../db/transaction.ts';
import type { DeliveryPreference, NoticeKind } from '../../core/meetings/notices.ts';
import { contactsById } from '../people/index.ts';

/** Somebody who is written to, with how they read times. */
export interface Reader {
  participant: Participant;
  zone: string;
  clock: '24' | '12';
  /** How they hear of each kind of news, where it is not at once; nothing for people outside. */
  hearing: Partial<Record<NoticeKind, DeliveryPreference>>;
  /** Whether they sign in here; all others answer on the guest's page. */
  hasAccount: boolean;
}

/** The organizer of a meeting, with their zone. */
export interface Sender {
  name: string;
  email: string;
  zone: string;
}

export interface Correspondence {
  sender: Sender;
  readers: Reader[];
}

/** Who is written to about some meetings, with how they read times, in one statement. */
export async function findReaders(
  db: Database,
  told: readonly { meeting: Meeting; to: readonly Participant[] }[],
): Promise<Correspondence[]> {
  const ids = told.flatMap(({ meeting, to }) => [
    organizerHere(meeting),
    ...to.flatMap(({ personId }) => personId ?? []),
  ]);
  const contacts = await contactsById(db, ids);
  return told.map(({ meeting, to }) => ({
    sender: contacts.get(organizerHere(meeting))!,
    readers: to.map((participant): Reader => {
      const known = participant.personId === null ? null : contacts.get(participant.personId);
      // People outside are told in the zone of the meeting.
      return {
        participant: known ? { ...participant, name: known.name, email: known.email } : participant,
        zone: known?.zone ?? meeting.timing.zone,
        clock: known?.clock ?? '24',
        hearing: known?.hearing ?? {},
        hasAccount: known?.hasAccount ?? false,
      };
    }),
  }));
}
