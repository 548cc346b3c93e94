import type { CalendarResponse, Layer, LayerColour, LayerItem } from '../../contract/calendar.ts';
import type { CalendarItem } from '../../contract/eventDetail.ts';
import { DAY, type Interval } from '../../core/time/interval.ts';

/** What is drawn in a calendar: something of mine, or of somebody whose layer is shown. */
export interface GridItem extends Interval {
  key: string;
  allDay: boolean;
  occupancy: CalendarItem['occupancy'];
  /** Null where only the time may be seen. */
  title: string | null;
  place: string;
  eventId: string | null;
  recurrenceId: string | null;
  occurrenceId: number;
  mine: CalendarItem | null;
  colour: LayerColour | null;
  /** Layers of people and places that take part in something of mine. */
  also: LayerColour[];
  /** Whose it is, where it is not mine. */
  whose: string | null;
  /** Why the title is not shown. */
  reason: string | null;
  /** Whether it cannot be told if it is among what is looked for. */
  faint: boolean;
  /** Whose calendar it is from, where that is one person’s or one place’s. */
  subjectId: number | null;
}

const HOW_TAKEN: Record<GridItem['occupancy'], string> = {
  busy: 'taken',
  tentative: 'perhaps taken',
  away: 'away',
  free: 'still free',
};

/** What an item is called: its title, or whose time is taken, and how. */
export const nameOf = (item: Pick<GridItem, 'title' | 'whose' | 'occupancy'>): string => {
  const how = HOW_TAKEN[item.occupancy];
  return item.title ?? (item.whose ? `${item.whose.split(' ')[0]}: ${how}` : how);
};

/** A calendar of its own: mine, or a layer. */
export interface Lane {
  key: string;
  name: string;
  colour: LayerColour | null;
  items: GridItem[];
  /** Nothing is known of this one, which does not mean free. */
  unknown: string | null;
}

/** Whether it stands there without taking time, as a thin band at the day’s edge. */
export const isBand = (item: Pick<GridItem, 'allDay' | 'start' | 'end' | 'occupancy'>): boolean =>
  item.occupancy === 'free' && !isBar(item);

/** Whether it is drawn as a bar across days: whole days, and what lasts a day or longer. */
export const isBar = (item: Pick<GridItem, 'allDay' | 'start' | 'end'>): boolean =>
  item.allDay || item.end - item.start >= DAY;

export const ofMine = (item: CalendarItem): GridItem => ({
  key: `m${item.occurrenceId}`,
  start: item.start,
  end: item.end,
  allDay: item.allDay,
  occupancy: item.occupancy,
  title: item.draft ? `Draft: ${item.title}` : item.title,
  place: [item.place, ...item.resources].filter(Boolean).join(', '),
  eventId: item.eventId,
  recurrenceId: item.recurrenceId,
  occurrenceId: item.occurrenceId,
  mine: item,
  colour: null,
  also: [],
  whose: null,
  reason: null,
  faint: false,
  subjectId: null,
});

const ofLayer = (item: LayerItem, layer: Layer, reason: string | null, fit: Fitting): GridItem => ({
  key: `l${layer.id}-${item.occurrenceId}`,
  start: item.start,
  end: item.end,
  allDay: item.allDay,
  occupancy: item.occupancy,
  title: item.title,
  place: item.place ?? '',
  eventId: item.eventId,
  recurrenceId: item.recurrenceId,
  occurrenceId: item.occurrenceId,
  mine: null,
  colour: layer.colour,
  also: [],
  whose: layer.name,
  reason: item.title === null ? (reason ?? 'Its title is not shared with you') : null,
  faint: fit === 'unknown',
  subjectId: layer.kind === 'team' ? null : (layer.subjectIds[0] ?? null),
});

/** Whether something is among what is looked for; of what is not shown of others it cannot be told. */
export type Fitting = 'yes' | 'no' | 'unknown';

/** One lane for me and one for each layer shown; what several of a team take part in stands once. */
export function lanesOf(
  answer: CalendarResponse,
  layers: readonly Layer[],
  keep: (item: CalendarItem) => boolean,
  judge: (item: LayerItem) => Fitting = () => 'yes',
): Lane[] {
  const calendars = new Map(answer.subjects.map((one) => [one.id, one]));
  const mine: Lane = {
    key: 'me',
    name: 'Me',
    colour: null,
    items: answer.items.filter(keep).map(ofMine),
    unknown: null,
  };
  const others = layers.map((layer): Lane => {
    const known = layer.subjectIds.flatMap((id) => calendars.get(id) ?? []);
    const seen = new Map<number, GridItem>();
    for (const subject of known) {
      for (const item of subject.items) {
        const before = seen.get(item.occurrenceId);
        const fit = judge(item);
        if (fit !== 'no' && (!before || before.title === null))
          seen.set(item.occurrenceId, ofLayer(item, layer, subject.reason, fit));
      }
    }
    const silent = known.filter((one) => one.knowledge === 'none');
    return {
      key: `${layer.id}`,
      name: layer.name,
      colour: layer.colour,
      items: [...seen.values()].sort((a, b) => a.start - b.start || b.end - a.end),
      unknown:
        known.length > 0 && silent.length === known.length
          ? `${layer.name} shares nothing with you`
          : null,
    };
  });
  return [mine, ...others];
}

/** All lanes over one another: what I take part in too stands once, marked with whose else it is. */
export function overlaid(lanes: readonly Lane[]): GridItem[] {
  const [mine, ...others] = lanes;
  const own = new Map(
    mine!.items.map((item) => [item.occurrenceId, { ...item, also: [...item.also] }]),
  );
  const rest: GridItem[] = [];
  for (const lane of others) {
    for (const item of lane.items) {
      const shared = own.get(item.occurrenceId);
      if (shared && lane.colour) shared.also.push(lane.colour);
      else rest.push(item);
    }
  }
  return [...own.values(), ...rest].sort((a, b) => a.start - b.start || b.end - a.end);
}
