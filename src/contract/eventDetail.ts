import type { InviteeRights } from '../core/meetings/rights.ts';
import type { Proposal } from '../core/meetings/meeting.ts';
import type { Reminder } from './eventParts.ts';

export type Reply = 'needs-action' | 'accepted' | 'tentative' | 'declined';

/** One occurrence as it stands in a person's calendar. */
export interface CalendarItem {
  eventId: string;
  occurrenceId: number;
  /** The wall time that names it within its series; null for a single event. */
  recurrenceId: string | null;
  version: number;
  title: string;
  place: string;
  start: number;
  end: number;
  allDay: boolean;
  /** Whether it is not sent yet, and seen by nobody else. */
  draft: boolean;
  /** The event's own zone, and that of its end where it is another. */
  zone: string;
  endZone: string | null;
  occupancy: 'busy' | 'tentative' | 'away' | 'free';
  /** My own reply, or `organizer` where the event is mine. */
  standing: Reply | 'organizer';
  organizer: string;
  attendeeCount: number;
  resources: string[];
  categoryId: number | null;
}

export interface EventAttendee {
  /** The attendee's own number within the installation. */
  id: number;
  personId: number | null;
  name: string;
  email: string;
  role: 'organizer' | 'required' | 'optional';
  reply: Reply;
  note: string;
  invitedAt: number;
  repliedAt: number | null;
  /** When they were last reminded to answer. */
  nudgedAt: number | null;
  /** Other times they ask for; of others only where I may change it. */
  proposals: Proposal[];
  /** Why the last letter to them did not reach them; null as far as is known that it did. */
  undelivered: string | null;
}

/** What is made: a booking for somebody else by whoever looks after places names its places' bookings. */
export interface MadeEvent extends EventDetail {
  bookings?: { id: string; start: number }[];
}

export interface EventDetail {
  id: string;
  uid: string;
  sequence: number;
  version: number;
  title: string;
  description: string;
  agenda: string;
  notes: string;
  place: string;
  /** Of the occurrence asked for; else of the next one. */
  start: number;
  end: number;
  startsAt: string;
  endsAt: string;
  zone: string;
  endZone: string | null;
  fold: 'earlier' | 'later';
  allDay: boolean;
  showsAs: 'busy' | 'tentative' | 'away' | 'free';
  visibility: 'default' | 'public' | 'private';
  rights: InviteeRights;
  status: 'confirmed' | 'cancelled';
  /** Set while it is not sent: nobody else sees it, and `attendees` are those it will ask. */
  draft: { holds: boolean } | null;
  /** Null for a single event. */
  series: EventSeries | null;
  /** Whose id is null where they are elsewhere. */
  organizer: { id: number | null; name: string };
  attendees: EventAttendee[];
  resources: {
    id: number;
    name: string;
    site: string;
    seats: number;
    /** Whether a steward has yet to agree to it, for some date at least. */
    isAsked: boolean;
  }[];
  canChange: boolean;
  /** Whether I may cancel it and decide what others may do, as its organizer does. */
  canCancel: boolean;
  /** Whether I may ask others as well. */
  canInvite: boolean;
  /** Whether everybody who is asked is listed; else only its organizer and I. */
  listsAll: boolean;
  myReply: Reply | null;
  /** My own category and reminders. */
  categoryId: number | null;
  reminders: Reminder[];
  attachments: Attachment[];
  /** What a clock change makes of the times, in sentences; empty for ordinary times. */
  clockNotes: string[];
}

export interface EventSeries {
  rule: string;
  /** The rule in words. */
  sentence: string;
  /** Wall times of the first occurrence, in the event's zone. */
  startsAt: string;
  endsAt: string;
  allDay: boolean;
  except: string[];
  /** Occurrences that were cancelled by themselves. */
  cancelled: string[];
  /** Occurrences with something of their own. */
  changed: string[];
  /** The occurrence that this detail shows, by its place in the rule. */
  recurrenceId: string | null;
}

export interface Attachment {
  id: string;
  name: string;
  type: string;
  /** Bytes. */
  size: number;
  addedBy: string;
  addedAt: number;
}

/** A date of a series on which something that was asked for is taken. */
export interface TakenDate {
  at: string;
  start: number;
  end: number;
  taken: TakenResource[];
  waysOut: WayOut[];
}

/** Whoever or whatever holds a resource that was asked for, as far as the asker may know. */
export interface TakenResource {
  resourceId: number;
  name: string;
  start: number;
  end: number;
  /** Null when the asker may not know. */
  title: string | null;
  holder: string | null;
  /** Why it is out of use, where that is what stands in the way. */
  outOfUse?: string;
}

/** One thing that would do instead of what was refused. */
export type WayOut =
  | {
      kind: 'resource';
      instead: number;
      resourceId: number;
      name: string;
      seats: number;
      floor: string;
    }
  | { kind: 'time'; resourceId: number; name: string; start: number; end: number };
