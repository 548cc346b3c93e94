import type { MeetingFactKind } from './meetingFacts.ts';

/**
 * What was done to a meeting, as a log says it that those read who may not know which: without title, people and
 * times, behind the name of whoever did it.
 */
export const LOGGED_WORDS: Record<MeetingFactKind, string> = {
  drafted: 'drafted a meeting',
  invited: 'invited to a meeting',
  uninvited: 'asked somebody no more to a meeting',
  changed: 'changed a meeting',
  moved: 'moved a meeting',
  cancelled: 'cancelled a meeting',
  restored: 'brought back a meeting',
  replied: 'answered an invitation',
  nudged: 'asked once more for an answer',
  resent: 'sent an invitation once more',
  proposed: 'asked for another time',
  'proposal-declined': 'declined another time',
  commented: 'commented on a meeting',
  attached: 'attached a file to a meeting',
  detached: 'removed a file from a meeting',
  'place-asked': 'asked for a place',
  'place-agreed': 'agreed to a booking',
  'place-refused': 'refused a booking',
  'place-expired': 'let a booking lapse that nobody agreed to',
  'place-moved': 'moved a booking to another place',
  'place-closed': 'took the place of a booking out of use',
  'dates-taken': 'found dates taken by others',
  'no-show': 'gave up a booking that nobody came to',
  'no-show-soon': 'reminded somebody to check in',
  'place-offered': 'offered a place that came free',
  'place-given': 'gave a place that came free',
  'checked-in': 'checked in to a booking',
  'checked-out': 'left a booking',
};
