import { parseRule } from '../../core/recurrence/rule.ts';
import type { Chip } from '../../core/sentence/sentence.ts';
import { HOUR, MINUTE } from '../../core/time/interval.ts';
import { resolveWallTime } from '../../core/time/wall.ts';
import { sentencePlan, type Hearing } from '../lineUp/index.ts';
import { blankDraft, type CarriedDraft } from '../meetings/index.ts';

/** What one's own new events begin with. */
export interface Usual {
  minutes: number;
  reminders: Parameters<typeof blankDraft>[2];
  /** Whose it is, who needs not be named. */
  me: number;
}

/** The form of a new event that a sentence fills; for what repeats in ways that Plan does not look through. */
export function sentenceDraft(
  chips: readonly Chip[],
  hearing: Hearing,
  { minutes, reminders, me }: Usual,
): CarriedDraft {
  const plan = sentencePlan(chips, hearing);
  const { now, zone } = hearing;
  const start =
    plan.at ??
    (plan.from
      ? resolveWallTime(`${plan.from}T09:00`, zone).instant
      : Math.ceil(now / HOUR) * HOUR);
  const span = { start, end: start + (plan.minutes ?? minutes) * MINUTE, allDay: false };
  const repeats = chips.find((chip) => chip.kind === 'repeats');
  const ends = repeats?.count ? `;COUNT=${repeats.count}` : '';
  return {
    name: `said ${now}`,
    draft: {
      ...blankDraft(span, zone, reminders),
      title: plan.title ?? '',
      people: (plan.lineUp ?? []).filter((one) => one.id !== me),
      ...(repeats && { repeating: { rule: parseRule(`${repeats.rule}${ends}`), except: [] } }),
    },
  };
}
