import type { EventAttendee, EventDetail } from '../../contract/events.ts';
import {
  timingInterval,
  type EventTiming,
  type Override,
  type SeriesPlan,
} from '../../core/recurrence/series.ts';
import type { WallTime } from '../../core/time/wall.ts';

/** What an occurrence may have of its own; null says: as the series. */
export interface OccurrenceDetails {
  cancelledAt: number | null;
  endZone: string | null;
  title: string | null;
  description: string | null;
  place: string | null;
  agenda: string | null;
  notes: string | null;
  showsAs: EventDetail['showsAs'] | null;
  resources: number[] | null;
}

export const NOTHING_OF_ITS_OWN: OccurrenceDetails = {
  cancelledAt: null,
  endZone: null,
  title: null,
  description: null,
  place: null,
  agenda: null,
  notes: null,
  showsAs: null,
  resources: null,
};

export type OccurrenceOverride = Override<OccurrenceDetails>;
export type EventPlan = SeriesPlan<OccurrenceDetails>;

export interface ReservedResource {
  id: number;
  name: string;
  site: string;
  seats: number;
}

/** An event as the database keeps it, with one of its occurrences in view. */
export interface EventRecord extends EventTiming {
  id: string;
  uid: string;
  sequence: number;
  version: number;
  organizer: { id: number; name: string; email: string; zone: string };
  title: string;
  description: string;
  place: string;
  agenda: string;
  notes: string;
  endZone: string | null;
  /** The times of the whole; those above are the occurrence's when one is in view. */
  whole: EventTiming;
  rule: string | null;
  exceptAt: WallTime[];
  overrides: OccurrenceOverride[];
  showsAs: EventDetail['showsAs'];
  visibility: EventDetail['visibility'];
  status: EventDetail['status'];
  cancelledAt: number | null;
  /** Occurrences that start before this are kept; null for a single event. */
  keptUntil: number | null;
  /** The occurrence in view, by its place in the rule; null for a single event. */
  recurrenceAt: WallTime | null;
  start: number;
  end: number;
  attendees: EventAttendee[];
  resources: ReservedResource[];
  /** Resources that only single occurrences have. */
  furtherResources: ReservedResource[];
}

/** Everyone of this installation whom a change of the event concerns. */
export const peopleOf = (event: EventRecord): number[] =>
  event.attendees.flatMap(({ personId }) => (personId === null ? [] : [personId]));

/** When a series happens; callers have seen that it is one. */
export const planOf = (event: EventRecord & { rule: string }): EventPlan => ({
  ...event.whole,
  rule: event.rule,
  except: event.exceptAt,
  overrides: event.overrides,
});

export const isSeries = (event: EventRecord): event is EventRecord & { rule: string } =>
  event.rule !== null;

/** The event with what is different about one of its occurrences put in. */
export function occurrenceOf(event: EventRecord, at: WallTime): EventRecord {
  const override = event.overrides.find((one) => one.recurrenceId === at);
  const timing = override?.timing ?? { ...event.whole, startsAt: at };
  const own = override?.details ?? NOTHING_OF_ITS_OWN;
  const known = [...event.resources, ...event.furtherResources];
  return {
    ...event,
    ...timing,
    ...timingInterval(timing),
    recurrenceAt: at,
    endZone: override?.timing ? own.endZone : event.endZone,
    title: own.title ?? event.title,
    description: own.description ?? event.description,
    place: own.place ?? event.place,
    agenda: own.agenda ?? event.agenda,
    notes: own.notes ?? event.notes,
    showsAs: own.showsAs ?? event.showsAs,
    resources: own.resources
      ? known.filter((resource) => own.resources!.includes(resource.id))
      : event.resources,
  };
}

export const timingOf = ({
  startsAt,
  zone,
  fold,
  lengthMinutes,
  allDay,
}: EventTiming): EventTiming => ({ startsAt, zone, fold, lengthMinutes, allDay });
