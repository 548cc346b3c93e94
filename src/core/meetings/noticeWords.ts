import type { MeetingFactKind } from './meetingFacts.ts';
import type { Reply } from '../icalendar/message.ts';

const REPLIES: Record<Reply, string> = {
  accepted: 'comes',
  tentative: 'comes perhaps',
  declined: 'does not come',
  'needs-action': 'has not answered',
};

/** What somebody hears of, as far as its words ask. */
interface Noticed {
  what: MeetingFactKind;
  reply: Reply | null;
  /** Whether it is the hearer's own meeting. */
  mine: boolean;
  /** Whether nobody but its organizer takes part. */
  isBooking: boolean;
  /** Which place it has instead; empty where that is not what happened. */
  where: string;
}

/**
 * What happened in words, after whoever did it: `Tomas Okafor` + ` comes`.
 * @param mine whether the reader organizes it
 */
export function noticeWords({ what, reply, mine, isBooking, where }: Noticed): string {
  switch (what) {
    case 'invited':
      if (isBooking) return 'booked it for you';
      return mine ? 'asked people to it' : 'invites you';
    case 'uninvited':
      return mine ? 'asks somebody no more' : 'does not ask you any more';
    case 'nudged':
      return 'waits for your answer';
    case 'resent':
      return 'sent the invitation once more';
    case 'moved':
      return 'moved it';
    case 'cancelled':
      return isBooking ? 'gave it back' : 'cancelled it';
    case 'restored':
      return 'put it on again';
    case 'proposal-declined':
      return 'cannot take the other time you asked for';
    case 'replied':
      return REPLIES[reply ?? 'needs-action'];
    case 'proposed':
      return 'asks for another time';
    case 'commented':
      return 'wrote about it';
    case 'place-asked':
      return 'asks for a place that you look after';
    case 'place-agreed':
      return 'is yours: a steward agreed';
    case 'place-refused':
      return 'is not yours: a steward does not agree';
    case 'place-expired':
      return 'is not yours: no steward agreed in time';
    case 'place-moved':
      return `goes out of use; you have ${where || 'another place'}`;
    case 'place-closed':
      return 'goes out of use, and nothing else fits';
    case 'dates-taken':
      return 'is somebody else’s on coming dates of it';
    case 'no-show':
      return 'was given to others, since nobody checked in';
    case 'place-offered':
      return 'is free again, and held for you for a while: take it on Today';
    case 'place-given':
      return 'is free again, and yours, as you wished';
    case 'no-show-soon':
      return 'is given to others shortly, unless somebody checks in';
    default:
      return 'changed it';
  }
}
