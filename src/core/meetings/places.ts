import { withOverride, type EventTiming } from '../recurrence/series.ts';
import { grouped } from '../grouped.ts';
import { invalid } from '../refusal.ts';
import { MINUTE } from '../time/interval.ts';
import { resolveWallTime, wallTimeAt, type WallTime } from '../time/wall.ts';
import { decideCancel } from './cancel.ts';
import type { Known } from './change.ts';
import { overrideAt } from './dates.ts';
import { numbered, revised, type Decision } from './decision.ts';
import { type MeetingFactKind } from './meetingFacts.ts';
import { retitled } from './ownTitle.ts';
import { isSeries, occurrenceOf, planOf, wantedResources, type Meeting } from './meeting.ts';

/** A place that a meeting is to have no more, and why. */
export interface GivingUp {
  resourceId: number;
  /** Its name, for whoever is told. */
  place: string;
  /** The one date of a series; null for all of it. */
  occurrence: WallTime | null;
  kind: Extract<MeetingFactKind, 'no-show' | 'place-refused' | 'place-expired'>;
  message: string;
}

/**
 * Takes a place from a meeting, or from one date of it; whoever organizes it is told, and nobody else.
 * What is nothing but somebody's booking of that place is cancelled, and can be restored.
 * @returns null when it does not want that place, or is cancelled
 */
export function decideGivingUp(
  before: Meeting,
  { resourceId, place, occurrence, kind, message }: GivingUp,
  known: Known,
): Decision | null {
  if (before.status === 'cancelled' || !wantedResources(before).includes(resourceId)) return null;
  const at = isSeries(before) ? occurrence : null;
  const told = (decision: Decision): Decision => ({
    ...decision,
    facts: [
      {
        kind,
        meetingId: before.id,
        occurrence: at,
        tell: false,
        message,
        details: { place, resource: resourceId },
      },
    ],
  });
  if (isBookingOf(before, resourceId, at)) {
    const part =
      at === null ? { scope: 'all' as const } : { scope: 'one' as const, occurrence: at };
    const decision = decideCancel(before, { ...part, tell: 'nobody', message }, known);
    return decision && told(decision);
  }
  const after = numbered(before, without(before, resourceId, at));
  return told({
    changes: [{ before, after }],
    facts: [],
    notes: [],
    answer: { id: before.id, occurrence: at },
    undo: { id: before.id, version: after.version },
  });
}

/** Whether a meeting, or a date of it, is nobody's but its organizer's, and has that place alone. */
function isBookingOf(meeting: Meeting, resourceId: number, at: WallTime | null): boolean {
  const wanted = at === null ? wantedResources(meeting) : occurrenceOf(meeting, at).resources;
  return meeting.participants.length === 1 && wanted.every((id) => id === resourceId);
}

function without(meeting: Meeting, resourceId: number, at: WallTime | null): Meeting {
  const rest = (ids: readonly number[]) => ids.filter((id) => id !== resourceId);
  if (at !== null && isSeries(meeting)) {
    const override = overrideAt(meeting, at);
    const resources = rest(override.details.resources ?? meeting.resources);
    const details = { ...override.details, resources };
    const { overrides } = withOverride(planOf(meeting), { ...override, details });
    return { ...meeting, overrides };
  }
  return {
    ...meeting,
    resources: rest(meeting.resources),
    overrides: meeting.overrides.map((one) => ({
      ...one,
      details: {
        ...one.details,
        resources: one.details.resources && rest(one.details.resources),
      },
    })),
  };
}

/** Where a date of a meeting goes whose place goes out of use. */
export interface PlaceInstead {
  /** The place that it has and that goes out of use. */
  from: { id: number; name: string };
  /** The date of a series; null for what happens once. */
  occurrence: WallTime | null;
  /** Null where nothing else fits: it then goes on without. */
  placeId: number | null;
  /** When it is then; its own time, epoch milliseconds. */
  start: number;
  end: number;
}

/**
 * Gives dates of a meeting other places than those that go out of use. Whoever organizes it is told of each, and those
 * who are asked to it hear where it is.
 * @param message for whoever is told
 * @param nameOf the names of the other places
 * @throws Refusal when a date that others take part in would be at another time
 */
export function decideNewPlaces(
  before: Meeting,
  message: string,
  dates: readonly PlaceInstead[],
  nameOf: (placeId: number) => string,
  now: number,
): Pick<Decision, 'changes' | 'facts'> {
  const draft = dates.reduce(
    (meeting, date) =>
      withNewPlace(meeting, date, (title, placeId) =>
        retitled(title, [date.from.name], placeId === null ? [] : [nameOf(placeId)]),
      ),
    before,
  );
  const after = revised(before, draft, now);
  const about = (some: readonly PlaceInstead[]) => ({
    meetingId: before.id,
    occurrence: some.length === 1 ? some[0]!.occurrence : null,
    message,
  });
  const byPlace = [...grouped(dates, ({ from }) => from.id).values()];
  return {
    changes: [{ before, after }],
    facts: [
      ...byPlace.map((some) => ({
        ...about(some),
        kind: some.some((one) => one.placeId !== null)
          ? ('place-moved' as const)
          : ('place-closed' as const),
        tell: false,
        details: {
          place: some[0]!.from.name,
          resource: some[0]!.from.id,
          moves: some.map(({ start, placeId }): [number, string | null] => [
            start,
            placeId === null ? null : nameOf(placeId),
          ]),
        },
      })),
      ...(before.participants.length > 1
        ? [{ ...about(dates), kind: 'changed' as const, tell: true }]
        : []),
    ],
  };
}

function withNewPlace(
  meeting: Meeting,
  date: PlaceInstead,
  titleIn: (title: string, placeId: number | null) => string,
): Meeting {
  const { placeId, start, end } = date;
  const from = date.from.id;
  const at = isSeries(meeting) ? date.occurrence : null;
  const put = (ids: readonly number[]) => [
    ...new Set(ids.flatMap((id) => (id === from ? (placeId ?? []) : id))),
  ];
  const shown = occurrenceOf(meeting, at);
  const isMoved = shown.start !== start || shown.end !== end;
  if (isMoved && meeting.participants.length > 1) {
    throw invalid([{ field: 'moves', message: 'must keep the time of what others take part in' }]);
  }
  const timing = isMoved ? timingAt(shown.timing, start, end) : null;
  if (at === null || !isSeries(meeting)) {
    return {
      ...meeting,
      ...(timing && { timing }),
      title: placeId === from ? meeting.title : titleIn(meeting.title, placeId),
      resources: put(meeting.resources),
    };
  }
  const override = overrideAt(meeting, at);
  const title = placeId === from ? shown.title : titleIn(shown.title, placeId);
  const details = {
    ...override.details,
    ...(title !== shown.title && { title }),
    resources: put(shown.resources),
  };
  const { overrides } = withOverride(planOf(meeting), {
    ...override,
    ...(timing && { timing }),
    details,
  });
  return { ...meeting, overrides };
}

/** The same in its own zone at another time. */
function timingAt(timing: EventTiming, start: number, end: number): EventTiming {
  const startsAt = wallTimeAt(start, timing.zone);
  return {
    ...timing,
    startsAt,
    fold: resolveWallTime(startsAt, timing.zone).instant === start ? 'earlier' : 'later',
    lengthMinutes: (end - start) / MINUTE,
  };
}
