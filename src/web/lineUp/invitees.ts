import type { EventDetail } from '../../contract/eventDetail.ts';
import type { ChangeEventRequest } from '../../contract/events.ts';

export type LineUpInvitee = NonNullable<ChangeEventRequest['attendees']>[number];

/** Everybody whom an event asks but its organizer, and some more. */
export const invitedWith = (
  event: EventDetail,
  fresh: readonly LineUpInvitee[],
): LineUpInvitee[] => [
  ...event.attendees.flatMap(({ personId, email, name, role }): LineUpInvitee[] => {
    if (role === 'organizer') return [];
    return [personId === null ? { email, name, role } : { personId, role }];
  }),
  ...fresh,
];
