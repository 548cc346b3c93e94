import type { FactKind } from './decision.ts';
import type { Reply } from '../icalendar/message.ts';

const REPLIES: Record<Reply, string> = {
  accepted: 'comes',
  tentative: 'comes perhaps',
  declined: 'does not come',
  'needs-action': 'has not answered',
};

/** What happened in words, after whoever did it: `Tomas Okafor` + ` comes`. */
export function noticeWords(what: FactKind, reply: Reply | null): string {
  switch (what) {
    case 'invited':
      return 'invites you';
    case 'nudged':
      return 'waits for your answer';
    case 'resent':
      return 'sent the invitation once more';
    case 'uninvited':
      return 'does not ask you any more';
    case 'moved':
      return 'moved it';
    case 'cancelled':
      return 'cancelled it';
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
    default:
      return 'changed it';
  }
}
