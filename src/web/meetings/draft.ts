import {
  FIELD_NAMES,
  pickFields,
  USUAL_FIELDS,
  type MeetingFields,
} from '../../core/meetings/fields.ts';
import { USUAL_RIGHTS } from '../../core/meetings/rights.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { Reminder } from '../../contract/eventParts.ts';
import { parseRule, ruleText } from '../../core/recurrence/rule.ts';
import type { Repeating } from './recurrence/repeating.ts';
import { joined, outsider, required, type LineUpEntry } from '../lineUp/index.ts';
import { typedFrom, type TypedTimes } from '../../core/time/typedTimes.ts';

/** An event as its form holds it. */
export interface Draft extends MeetingFields {
  rights: EventDetail['rights'];
  categoryId: number | null;
  reminders: Reminder[];
  typed: TypedTimes;
  repeating: Repeating;
  /** Whom and what it needs besides its organizer. */
  people: readonly LineUpEntry[];
  /** In whose name it is made; null is mine. */
  whose: number | null;
}

export const NOT_REPEATING: Repeating = { rule: null, except: [] };

/** An event of nothing but its time. */
export const blankDraft = (
  span: { start: number; end: number; allDay: boolean },
  zone: string,
  reminders: Reminder[],
): Draft => ({
  ...USUAL_FIELDS,
  rights: USUAL_RIGHTS,
  categoryId: null,
  reminders,
  typed: typedFrom(span.start, span.end, zone, span.allDay),
  repeating: NOT_REPEATING,
  people: [],
  whose: null,
});

/** A new event at a time, with what is known of it. */
export const draftFor = (
  span: { start: number; end: number },
  zone: string,
  reminders: Reminder[],
  { title, places, repeating }: { title: string; places: readonly number[]; repeating: Repeating },
): Draft => ({
  ...blankDraft({ ...span, allDay: false }, zone, reminders),
  title,
  repeating,
  people: places.map(required),
});

/** An event that is there, with the times of the occurrence in view. */
export const draftOf = (event: EventDetail): Draft => ({
  ...pickFields(FIELD_NAMES, event),
  rights: event.rights,
  categoryId: event.categoryId,
  reminders: event.reminders,
  typed: typedFrom(event.start, event.end, event.zone, event.allDay, event.endZone),
  repeating: event.series
    ? { rule: parseRule(event.series.rule), except: event.series.except }
    : NOT_REPEATING,
  people: peopleOf(event),
  whose: null,
});

/** Whom an event asks besides its organizer, and what it holds. */
const peopleOf = (event: EventDetail): LineUpEntry[] =>
  joined(
    [],
    [
      ...event.attendees
        .filter((one) => one.role !== 'organizer')
        .map((one) => ({
          ...(one.personId === null ? outsider(one.email) : required(one.personId)),
          role: one.role === 'optional' ? ('optional' as const) : ('required' as const),
        })),
      ...event.resources.map((one) => required(one.id)),
    ],
  );

/** Another one like an event that is there, with the same people and places, once. */
export const copyOf = (event: EventDetail, myId: number): Draft => ({
  ...draftOf(event),
  repeating: NOT_REPEATING,
  people: joined(
    peopleOf(event),
    event.organizer.id === null ? [] : [required(event.organizer.id)],
  ).filter((one) => one.id !== myId),
});

/** How it repeats, as a request says it; null for once. */
export const repeatsOf = ({ rule, except }: Repeating) =>
  rule ? { rule: ruleText(rule), except } : null;

export const sameDraft = (a: unknown, b: unknown): boolean =>
  JSON.stringify(a) === JSON.stringify(b);

/** A draft that goes along to another view, in its place in the history. */
export interface CarriedDraft {
  draft: Draft;
  name: string;
}
