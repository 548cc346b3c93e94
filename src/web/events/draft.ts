import type { EventDetail, Reminder } from '../../contract/events.ts';
import { parseRule, ruleText } from '../../core/recurrence/rule.ts';
import type { Repeating } from './recurrence/repeating.ts';
import { typedFrom, type TypedTimes } from '../time/index.ts';

/** An event as its form holds it. */
export interface Draft {
  title: string;
  place: string;
  description: string;
  agenda: string;
  notes: string;
  showsAs: EventDetail['showsAs'];
  visibility: EventDetail['visibility'];
  categoryId: number | null;
  reminders: Reminder[];
  typed: TypedTimes;
  repeating: Repeating;
}

export const NOT_REPEATING: Repeating = { rule: null, except: [] };

/** An event of nothing but its time. */
export const blankDraft = (
  span: { start: number; end: number; allDay: boolean },
  zone: string,
  reminders: Reminder[],
): Draft => ({
  title: '',
  place: '',
  description: '',
  agenda: '',
  notes: '',
  showsAs: 'busy',
  visibility: 'default',
  categoryId: null,
  reminders,
  typed: typedFrom(span.start, span.end, zone, span.allDay),
  repeating: NOT_REPEATING,
});

/** An event that is there, with the times of the occurrence in view. */
export const draftOf = (event: EventDetail): Draft => ({
  title: event.title,
  place: event.place,
  description: event.description,
  agenda: event.agenda,
  notes: event.notes,
  showsAs: event.showsAs,
  visibility: event.visibility,
  categoryId: event.categoryId,
  reminders: event.reminders,
  typed: typedFrom(event.start, event.end, event.zone, event.allDay, event.endZone),
  repeating: event.series
    ? { rule: parseRule(event.series.rule), except: event.series.except }
    : NOT_REPEATING,
});

/** How it repeats, as a request says it; null for once. */
export const repeatsOf = ({ rule, except }: Repeating) =>
  rule ? { rule: ruleText(rule), except } : null;

export const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
