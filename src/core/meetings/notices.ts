import { factDetail, type MeetingFact, type MeetingFactKind } from './meetingFacts.ts';
import type { Meeting, Participant } from './meeting.ts';
import { participantKey } from './people.ts';

/** Kinds of news, each of which somebody may hear of at once, by a daily letter, or not at all. */
export const NOTICE_KINDS = [
  'invitations',
  'changes',
  'answers',
  'other-times',
  'comments',
  'mentions',
  'places',
] as const;
export type NoticeKind = (typeof NOTICE_KINDS)[number];

/** How somebody hears of a kind of news. */
export const DELIVERY_PREFERENCES = ['now', 'daily', 'never'] as const;
export type DeliveryPreference = (typeof DELIVERY_PREFERENCES)[number];

/** Which kind of news each fact is to those whom it is told; the others are none. */
const KIND_OF: Partial<Record<MeetingFactKind, NoticeKind>> = {
  invited: 'invitations',
  nudged: 'invitations',
  resent: 'invitations',
  uninvited: 'changes',
  changed: 'changes',
  moved: 'changes',
  cancelled: 'changes',
  restored: 'changes',
  'proposal-declined': 'changes',
  replied: 'answers',
  proposed: 'other-times',
  commented: 'comments',
  'place-asked': 'places',
  'place-agreed': 'places',
  'place-refused': 'places',
  'place-expired': 'places',
  'place-moved': 'places',
  'place-closed': 'places',
  'dates-taken': 'places',
  'no-show': 'places',
  'no-show-soon': 'places',
  'place-offered': 'places',
  'place-given': 'places',
};

/** Kinds of which somebody hears, and drafts, which somebody may have heard of before they were that again. */
export const NOTICED_KINDS: readonly MeetingFactKind[] = [
  ...(Object.keys(KIND_OF) as MeetingFactKind[]),
  'drafted',
];

export const noticeKindOf = (kind: MeetingFactKind): NoticeKind | undefined => KIND_OF[kind];

/** That somebody is told of something. */
export interface Notice {
  personId: number;
  kind: NoticeKind;
}

/** Whom a fact is told, with the numbers they have now; never the organizer. */
export function addressees(
  meeting: Pick<Meeting, 'participants'>,
  { people }: Pick<MeetingFact, 'people'>,
): Participant[] {
  const present = new Map(meeting.participants.map((one) => [participantKey(one), one]));
  const told = people?.map((one) => present.get(participantKey(one)) ?? { ...one, id: 0 });
  return (told ?? meeting.participants).filter((one) => one.role !== 'organizer');
}

/**
 * Who of this installation hears of a fact, whoever did it left out: the organizer of answers, other
 * times and comments, those invited of everything that they are told.
 * @param actorId whoever did it; null where it is nobody of this installation
 */
export function noticesOf(fact: MeetingFact, meeting: Meeting, actorId: number | null): Notice[] {
  const kind = KIND_OF[fact.kind];
  if (!kind) return [];
  const isOthers = actorId !== null && actorId !== meeting.organizerId;
  return hearers(fact, meeting, isOthers).flatMap((personId) => {
    if (personId === actorId) return [];
    const mentioned = factDetail(fact, 'mentions')?.includes(personId);
    return [{ personId, kind: mentioned ? ('mentions' as const) : kind }];
  });
}

function hearers(fact: MeetingFact, meeting: Meeting, isOthers: boolean): number[] {
  const invited = (some: readonly Participant[]) => some.flatMap(({ personId }) => personId ?? []);
  const organizer = meeting.organizerId === null ? [] : [meeting.organizerId];
  switch (fact.kind) {
    case 'replied':
      return fact.details.quietly ? [] : organizer;
    case 'proposed':
    case 'place-agreed':
    case 'place-refused':
    case 'place-expired':
    case 'place-moved':
    case 'place-closed':
    case 'dates-taken':
    case 'no-show':
    case 'no-show-soon':
    case 'place-offered':
    case 'place-given':
      return organizer;
    case 'place-asked':
      return [...fact.details.stewards];
    case 'commented': {
      // Where invitees do not see who else is asked, they do not hear of each other either.
      const { by } = fact.details;
      const all = by === meeting.organizerId || meeting.rights.list || meeting.rights.change;
      return all ? invited(meeting.participants) : organizer;
    }
    default: {
      const told = fact.tell ? invited(addressees(meeting, fact)) : [];
      // Whoever organizes it hears what others do with it.
      return isOthers && fact.kind !== 'nudged' && fact.kind !== 'resent'
        ? [...told, ...organizer]
        : told;
    }
  }
}
