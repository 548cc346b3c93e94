import type { EventDetail } from '../../../contract/eventDetail.ts';
import {
  answerOf,
  isSeries,
  occurrenceOf,
  type Meeting,
  type OccurrenceOverride,
} from '../../../core/meetings/meeting.ts';
import { DATE_FIELD_NAMES, FIELD_NAMES, pickFields } from '../../../core/meetings/fields.ts';
import { askedAt } from '../../../core/meetings/people.ts';
import { parseRule } from '../../../core/recurrence/rule.ts';
import { ruleSentence } from '../../../core/recurrence/sentence.ts';
import { timingInterval } from '../../../core/recurrence/series.ts';
import { resolveSpan } from '../../../core/time/eventTimes.ts';
import { wallTimeAt, type WallTime } from '../../../core/time/wall.ts';
import { unprojectedOf, type Unprojected, type WholeDetail } from '../../access/index.ts';
import type { EventSurroundings } from './surroundingQueries.ts';

/** An event with the occurrence that is in view, before it is projected to whoever asks. */
export function detailOf(
  meeting: Meeting,
  at: WallTime | null,
  { undelivered, resources, left, ...surroundings }: EventSurroundings,
): Unprojected<WholeDetail> {
  const shown = occurrenceOf(meeting, isSeries(meeting) ? at : null);
  const { start, end, timing, endZone } = shown;
  const startsAt = isSeries(meeting) ? wallTimeAt(start, timing.zone) : timing.startsAt;
  const endsAt = wallTimeAt(end, endZone ?? timing.zone);
  // What is over stays theirs who had it then.
  const former = left.filter(({ leftAt }) => leftAt > start);
  const host = former.find((one) => one.role === 'organizer');
  const organizer = meeting.participants.find((one) => one.role === 'organizer')!;
  const times = { startsAt, endsAt, zone: timing.zone, endZone, fold: timing.fold };
  return unprojectedOf({
    id: meeting.id,
    uid: meeting.uid,
    sequence: meeting.sequence,
    version: meeting.version,
    ...pickFields(FIELD_NAMES, { ...meeting, ...pickFields(DATE_FIELD_NAMES, shown) }),
    start,
    end,
    ...times,
    allDay: timing.allDay,
    rights: meeting.rights,
    status: meeting.status,
    draft: meeting.draft && { holds: meeting.draft.holds },
    series: seriesOf(meeting, shown.recurrenceId),
    organizer: host
      ? { id: host.personId, name: host.name }
      : { id: meeting.organizerId, name: organizer.name },
    attendees: [...meeting.participants, ...toBeAsked(meeting)]
      .map((one) => {
        const { reply, note, askedAt, repliedAt } = answerOf(one, shown.recurrenceId);
        const { id, personId, name, email, role, nudgedAt, proposals } = one;
        return {
          id,
          personId,
          name,
          email,
          role: host && role === 'organizer' ? ('required' as const) : role,
          reply,
          note,
          invitedAt: askedAt,
          repliedAt,
          nudgedAt,
          proposals,
          undelivered: undelivered[id] ?? null,
        };
      })
      .concat(former.map((one, k) => tookPart(one, k))),
    resources: resources.filter((one) => shown.resources.includes(one.id)),
    ...surroundings,
    clockNotes: timing.allDay ? [] : resolveSpan(times).notes,
  });
}

/** Somebody who left since, as they took part; nothing is asked of them by their number any more. */
const tookPart = (
  { leftAt: _left, ...one }: EventSurroundings['left'][number],
  k: number,
): EventDetail['attendees'][number] => ({
  ...one,
  id: FORMER - k,
  note: '',
  nudgedAt: null,
  proposals: [],
  undelivered: null,
});
/** Below the numbers of those whom a draft will ask. */
const FORMER = -1_000_000;

/** Whom a draft will ask, as if they had been; numbers below zero tell them from those who were. */
const toBeAsked = ({ draft }: Meeting) =>
  (draft?.invited ?? []).map((one, k) => ({ ...askedAt(one, 0), id: -1 - k }));

const isCancelled = (one: OccurrenceOverride) => one.cancelled;
/** Something of its own that people see; that an answer is out of date is none. */
const isChanged = ({ cancelled, timing, details }: OccurrenceOverride) => {
  const { minReplySequence: _, ...own } = details;
  return !cancelled && (timing !== null || Object.values(own).some((value) => value !== null));
};

function seriesOf(meeting: Meeting, at: WallTime | null): EventDetail['series'] {
  if (!isSeries(meeting)) return null;
  const { timing, overrides } = meeting;
  const names = (keeps: (one: OccurrenceOverride) => boolean) =>
    overrides
      .filter(keeps)
      .map((one) => one.recurrenceId)
      .sort();
  return {
    rule: meeting.rule,
    sentence: ruleSentence(parseRule(meeting.rule), timing.startsAt),
    startsAt: timing.startsAt,
    endsAt: wallTimeAt(timingInterval(timing).end, meeting.endZone ?? timing.zone),
    allDay: timing.allDay,
    except: [...meeting.except].sort(),
    cancelled: names(isCancelled),
    changed: names(isChanged),
    recurrenceId: at,
  };
}
