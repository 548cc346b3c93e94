import type { PropertyFields } from '../meetings/fields.ts';
import type { WallTime } from '../time/wall.ts';

/** iTIP methods that Marmot sends or understands (RFC 5546 section 3.2). */
export type ItipMethod =
  'PUBLISH' | 'REQUEST' | 'CANCEL' | 'REPLY' | 'COUNTER' | 'DECLINECOUNTER' | 'REFRESH';

export type Reply = 'needs-action' | 'accepted' | 'tentative' | 'declined';

export interface CalendarAddress {
  name: string;
  /** A mail address without `mailto:`. */
  email: string;
  /** The address of whoever acts for them (SENT-BY), without `mailto:`. */
  sentBy?: string | undefined;
}

export interface MessageAttendee extends CalendarAddress {
  role: 'required' | 'optional';
  reply: Reply;
}

/** Something reserved for a meeting, named as an attendee of its own kind. */
export interface MessageResource {
  name: string;
  /** A URI that names it, such as `urn:uuid:…`, since it reads no mail. */
  uri: string;
  /** A room or a lab; else a thing. */
  isRoom: boolean;
}

/** A meeting as an iTIP message carries it. */
export interface MeetingMessage {
  method: ItipMethod;
  uid: string;
  sequence: number;
  /** When this message was made, epoch milliseconds (DTSTAMP). */
  stamp: number;
  organizer: CalendarAddress;
  attendees: MessageAttendee[];
  resources: MessageResource[];
  /** Takes nobody's time (TRANSP). */
  transparent: boolean;
  /** Meant for its people alone (CLASS). */
  confidential: boolean;
  /** What it says of itself; texts are plain. */
  fields: PropertyFields;
  /** Epoch milliseconds, half-open. */
  start: number;
  end: number;
  /** Whole days; `start` and `end` are then the midnights of `zone`. */
  allDay: boolean;
  zone: string;
  /** For a series: its rule, its first wall time and the occurrences left out. */
  series?: { rule: string; startsAt: WallTime; except: WallTime[] };
  /** The occurrence of a series that this is about, by its place in the rule (RECURRENCE-ID). */
  recurrenceId?: WallTime;
  /**
   * Whose clock `recurrenceId` is on, and whether it is a whole day: those of the series, which a date that was
   * moved to another zone, or to whole days, is named by all the same.
   */
  original?: { zone: string; allDay: boolean };
  /** Occurrences of a series that have something of their own, each with its `recurrenceId`. */
  changed?: MeetingMessage[];
  /** Words of whoever sends the message, for this message alone. */
  comment?: string;
}
