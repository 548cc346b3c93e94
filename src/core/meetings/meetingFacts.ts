import type { WallTime } from '../time/wall.ts';
import type { Participant } from './meeting.ts';
import type { Reply } from '../icalendar/message.ts';

/** What may be kept of a change of the meeting itself. */
interface OfChange {
  /** The version made by the change of which this is the inverse. */
  undone?: number;
  /** Who is asked as well, by their keys. */
  added?: string[];
  /** From which date on a series does not happen any more. */
  endsBefore?: WallTime;
}
/** An attendee by their own number. */
interface OfAttendee {
  attendee: number;
}
/** Times that somebody asks for, or is told no: starts and ends, epoch milliseconds. */
interface AskedTimes extends OfAttendee {
  times: [start: number, end: number][];
}
/** One of its places, by its name at that moment and its id. */
interface OfPlace {
  place: string;
  resource: number;
}

/**
 * What happened to a meeting, by its kind, and what of it is worth keeping besides. Whoever tells of what
 * happened (letters, news, windows) registers with the kinds it reads, and whoever commits knows none of them.
 */
export interface MeetingFactDetails {
  drafted: OfChange;
  invited: OfChange;
  uninvited: OfChange;
  changed: OfChange;
  moved: OfChange;
  cancelled: OfChange;
  restored: OfChange;
  replied: OfAttendee & { reply: Reply; quietly?: true };
  nudged: { attendees: number[] };
  resent: { attendees?: number[] };
  proposed: AskedTimes;
  'proposal-declined': AskedTimes;
  commented: { comment: number; mentions: number[]; by: number };
  attached: { name: string };
  detached: { attachment: string };
  /** A steward has to agree to a place. */
  'place-asked': { resources: readonly number[]; stewards: readonly number[] };
  'place-agreed': OfPlace & { dates: number };
  /** A place was given up: a steward does not agree, or did not in time; nobody came. */
  'place-refused': OfPlace;
  'place-expired': OfPlace;
  'no-show': OfPlace;
  /** A place goes out of use: each date by its start, and where it is then; null for no place. */
  'place-moved': OfPlace & { moves: [start: number, place: string | null][] };
  'place-closed': OfPlace & { moves?: [start: number, place: string | null][] };
  /** Coming dates of a series, each by its start, on which somebody else has a place; the first names it. */
  'dates-taken': OfPlace & { dates: [start: number, recurrenceId: WallTime, resource: number][] };
  /** It will be given up unless somebody checks in until then. Epoch milliseconds. */
  'no-show-soon': OfPlace & { until: number };
  /** It came free for whoever waits: held for them until then (epoch milliseconds), or theirs. */
  'place-offered': OfPlace & { until: number };
  'place-given': OfPlace;
  'checked-in': OfPlace;
  'checked-out': OfPlace;
}

export const MEETING_FACT_KINDS = [
  'drafted',
  'invited',
  'uninvited',
  'changed',
  'moved',
  'cancelled',
  'restored',
  'replied',
  'nudged',
  'resent',
  'proposed',
  'proposal-declined',
  'commented',
  'attached',
  'detached',
  'place-asked',
  'place-agreed',
  'place-refused',
  'place-expired',
  'place-moved',
  'place-closed',
  'dates-taken',
  'no-show',
  'no-show-soon',
  'place-offered',
  'place-given',
  'checked-in',
  'checked-out',
] as const satisfies readonly (keyof MeetingFactDetails)[];
export type MeetingFactKind = (typeof MEETING_FACT_KINDS)[number];

/** What holds for a fact of whatever kind. It is about a meeting as it is afterwards, or, once it is gone, as it last was. */
interface Common {
  meetingId: string;
  /** The one occurrence it is about; null for all of it. */
  occurrence: WallTime | null;
  /** Whether those invited are written to. */
  tell: boolean;
  /** Whom alone it concerns, as they were when it happened; everybody who takes part where left out. */
  people?: Participant[];
  /** Words of whoever did it, for those who are told. */
  message: string;
  /** Words that are told, and not kept with what happened. */
  quoted?: string;
}

/** What has nothing that must be said besides. */
type Detailed<Kind extends MeetingFactKind> =
  Record<never, never> extends MeetingFactDetails[Kind]
    ? { details?: MeetingFactDetails[Kind] }
    : { details: MeetingFactDetails[Kind] };

type FactOf<Kind extends MeetingFactKind> = Common & { kind: Kind } & Detailed<Kind>;
/** A fact of one of some kinds. */
export type FactAmong<Kinds extends MeetingFactKind> = { [Kind in Kinds]: FactOf<Kind> }[Kinds];
/** What happened, for those who tell of it. */
export type MeetingFact = FactAmong<MeetingFactKind>;

/** Kinds of changes of the meeting itself. */
export type ChangeKind = {
  [Kind in MeetingFactKind]: MeetingFactDetails[Kind] extends OfChange
    ? OfChange extends MeetingFactDetails[Kind]
      ? Kind
      : never
    : never;
}[MeetingFactKind];
export type ChangeFact = FactAmong<ChangeKind>;

/** What of the details some kinds have is said, whichever kind it is. */
type Detail<Name extends string> = {
  [Kind in MeetingFactKind]: MeetingFactDetails[Kind] extends { [N in Name]?: infer Value }
    ? Value
    : never;
}[MeetingFactKind];

/** One of a fact's details, where its kind has it. */
export const factDetail = <Name extends string>(
  { details }: MeetingFact,
  name: Name,
): Detail<Name> | undefined =>
  details && name in details
    ? ((details as Record<string, unknown>)[name] as Detail<Name>)
    : undefined;
