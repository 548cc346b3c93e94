import { claimedTime } from '../../src/core/booking/booking.ts';
import { clip, DAY, merge, overlaps, type Interval } from '../../src/core/time/interval.ts';
import { resolveWallTime, type WallTime } from '../../src/core/time/wall.ts';
import { expandSeries } from '../../src/core/recurrence/expand.ts';
import type { LoadedPerson, LoadedResource } from './load.ts';

export type SampleReply = 'needs-action' | 'accepted' | 'tentative' | 'declined';

export interface SampleAttendee {
  person: LoadedPerson;
  role: 'required' | 'optional';
  reply: SampleReply;
}

export interface SampleEvent {
  title: string;
  organizer: LoadedPerson;
  startsAt: WallTime;
  zone: string;
  lengthMinutes: number;
  rule?: string;
  attendees: SampleAttendee[];
  resources: { resource: LoadedResource; unit: number }[];
  showsAs: 'busy' | 'tentative' | 'away' | 'free';
  visibility: 'default' | 'private';
  allDay: boolean;
  place: string;
  occurrences: (Interval & { recurrenceId: WallTime | null })[];
}

type Draft = Pick<SampleEvent, 'title' | 'organizer' | 'startsAt' | 'lengthMinutes'> &
  Partial<
    Pick<SampleEvent, 'rule' | 'attendees' | 'showsAs' | 'visibility' | 'allDay' | 'place' | 'zone'>
  > & {
    resources?: LoadedResource[];
    /** Whether all dates of a series are made up, also those before everything else. */
    isOld?: true;
  };

/** The demonstration's calendars while they are made up; nothing in them is ever booked twice. */
export class Calendars {
  readonly events: SampleEvent[] = [];
  private readonly people = new Map<number, Taken>();
  private readonly units = new Map<string, Taken>();

  /**
   * @param window what is made up
   * @param horizon up to when series happen, which may be later
   */
  constructor(
    private readonly window: Interval,
    private readonly horizon: number,
  ) {}

  /** Keeps time of people and places free of what is made up from now on. */
  keep(
    people: readonly LoadedPerson[],
    resources: readonly LoadedResource[],
    span: Interval,
  ): void {
    for (const person of people) append(this.people, person.id, [span]);
    for (const resource of resources) {
      const [prepareMinutes, clearMinutes] = resource.buffers ?? [0, 0];
      const claimed = claimedTime(span, { prepareMinutes, clearMinutes });
      append(this.units, `${resource.id}/1`, [claimed]);
    }
  }

  /** What somebody has within a span. */
  timesOf(person: LoadedPerson, span: Interval): Interval[] {
    return this.people.get(person.id)?.within(span) ?? [];
  }

  /** How long a place of one unit is taken within a span. Milliseconds. */
  takenOf(resource: LoadedResource, span: Interval): number {
    const taken = this.units.get(`${resource.id}/1`)?.within(span) ?? [];
    return length(merge(taken.flatMap((one) => clip(one, span) ?? [])));
  }

  isFree(person: LoadedPerson, span: Interval): boolean {
    return !this.people.get(person.id)?.touches(span);
  }

  /** The first unit of a resource that is free for all the spans, or null. */
  private freeUnit(resource: LoadedResource, spans: readonly Interval[]): number | null {
    const [prepareMinutes, clearMinutes] = resource.buffers ?? [0, 0];
    for (let unit = 1; unit <= (resource.units ?? 1); unit++) {
      const taken = this.units.get(`${resource.id}/${unit}`);
      const clash = spans.some((span) => {
        const claimed = claimedTime(span, { prepareMinutes, clearMinutes });
        return taken?.touches(claimed);
      });
      if (!clash) return unit;
    }
    return null;
  }

  isResourceFree(resource: LoadedResource, span: Interval): boolean {
    return this.freeUnit(resource, [span]) !== null;
  }

  /** Adds an event, leaving out resources that are taken. */
  add(draft: Draft): SampleEvent {
    const zone = draft.zone ?? draft.organizer.zone;
    const occurrences = this.occurrencesOf(draft, zone);
    const resources = (draft.resources ?? []).flatMap((resource) => {
      const unit = this.freeUnit(resource, occurrences);
      return unit === null ? [] : [{ resource, unit }];
    });
    const event: SampleEvent = {
      attendees: [],
      showsAs: 'busy',
      visibility: 'default',
      allDay: false,
      place: '',
      ...draft,
      zone,
      resources,
      occurrences,
    };
    this.take(event);
    this.events.push(event);
    return event;
  }

  private occurrencesOf(draft: Draft, zone: string): SampleEvent['occurrences'] {
    const { startsAt, lengthMinutes, rule, isOld } = draft;
    if (!rule) {
      const start = resolveWallTime(startsAt, zone).instant;
      return [{ start, end: start + lengthMinutes * 60_000, recurrenceId: null }];
    }
    return expandSeries(
      { startsAt, zone, lengthMinutes, rule },
      { start: isOld ? 0 : this.window.start, end: this.horizon },
    );
  }

  private take(event: SampleEvent) {
    const coming = event.attendees.filter((one) => one.reply !== 'declined');
    const people = [event.organizer, ...coming.map((one) => one.person)];
    const soon = event.occurrences.filter((one) => one.start < this.window.end);
    if (event.showsAs !== 'free') {
      for (const person of people) append(this.people, person.id, soon);
    }
    for (const { resource, unit } of event.resources) {
      const [prepareMinutes, clearMinutes] = resource.buffers ?? [0, 0];
      append(
        this.units,
        `${resource.id}/${unit}`,
        soon.map((span) => claimedTime(span, { prepareMinutes, clearMinutes })),
      );
    }
  }
}

const length = (spans: readonly Interval[]): number =>
  spans.reduce((sum, { start, end }) => sum + end - start, 0);

/** What is taken, found by the days that it touches. */
class Taken {
  private readonly days = new Map<number, Interval[]>();

  add(span: Interval): void {
    for (const day of daysOf(span)) {
      const list = this.days.get(day);
      if (list) list.push(span);
      else this.days.set(day, [span]);
    }
  }

  touches(span: Interval): boolean {
    return daysOf(span).some((day) => this.days.get(day)?.some((one) => overlaps(one, span)));
  }

  /** Each once. */
  within(span: Interval): Interval[] {
    const all = daysOf(span).flatMap((day) => this.days.get(day) ?? []);
    return [...new Set(all)].filter((one) => overlaps(one, span));
  }
}

/** The days since 1970 that a span touches. */
function daysOf({ start, end }: Interval): number[] {
  const first = Math.floor(start / DAY);
  return Array.from({ length: Math.floor(end / DAY) - first + 1 }, (_, k) => first + k);
}

function append<K>(map: Map<K, Taken>, key: K, spans: readonly Interval[]) {
  let taken = map.get(key);
  if (!taken) map.set(key, (taken = new Taken()));
  for (const span of spans) taken.add(span);
}
