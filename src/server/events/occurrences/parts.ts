import { pickFields, TIME_FIELD_NAMES } from '../../../core/meetings/fields.ts';
import type { Meeting } from '../../../core/meetings/meeting.ts';
import { same } from '../../../core/same.ts';

/** Whether a part of a meeting is another after a change. */
export const differs = (
  before: Meeting,
  after: Meeting,
  part: (meeting: Meeting) => unknown,
): boolean => !same(part(before), part(after));

/** What decides when it happens. */
export const occurrenceTimes = ({ timing, rule, except, overrides }: Meeting) => [
  timing,
  rule,
  [...except].sort(),
  overrides
    .filter((one) => one.timing || one.cancelled)
    .map((one) => [one.recurrenceId, one.timing, one.cancelled])
    .sort(),
];

/** What decides which resources are held. */
export const placesOf = ({ status, draft, resources, overrides }: Meeting) => [
  status,
  draft?.holds === false,
  [...resources].sort(),
  overrides
    .filter((one) => one.details.resources)
    .map((one) => [one.recurrenceId, one.details.resources])
    .sort(),
];

/** What decides how everybody's time is taken. */
export const presenceOf = (meeting: Meeting) => [
  meeting.status,
  meeting.draft?.holds,
  pickFields(TIME_FIELD_NAMES, meeting),
  meeting.overrides
    .map(
      ({ recurrenceId, details }) => [recurrenceId, pickFields(TIME_FIELD_NAMES, details)] as const,
    )
    .filter(([, own]) => Object.values(own).some((value) => value !== null)),
];
