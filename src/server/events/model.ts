import type { EventAttendee, EventDetail } from '../../contract/events.ts';
import type { Fold, WallTime } from '../../core/time/wall.ts';

/** An event as the database keeps it, with the first of its occurrences. */
export interface EventRecord {
  id: string;
  uid: string;
  sequence: number;
  version: number;
  organizer: { id: number; name: string; email: string; zone: string };
  title: string;
  description: string;
  place: string;
  startsAt: WallTime;
  fold: Fold;
  lengthMinutes: number;
  zone: string;
  allDay: boolean;
  rule: string | null;
  exceptAt: WallTime[];
  showsAs: EventDetail['showsAs'];
  visibility: EventDetail['visibility'];
  status: EventDetail['status'];
  start: number;
  end: number;
  attendees: EventAttendee[];
  resources: { id: number; name: string; site: string; seats: number; unit: number }[];
}

/** Everyone of this installation whom a change of the event concerns. */
export const peopleOf = (event: EventRecord): number[] =>
  event.attendees.flatMap(({ personId }) => (personId === null ? [] : [personId]));
