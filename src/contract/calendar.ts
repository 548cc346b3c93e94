import { z } from 'zod';
import { calendarDate, instant, line, subjectId } from './common.ts';
import type { CalendarItem } from './eventDetail.ts';

const DAY_MS = 24 * 3_600_000;
export const MOST_LAYERS = 100;

const span = { from: z.coerce.number().pipe(instant), to: z.coerce.number().pipe(instant) };
const inOrder = ({ from, to }: { from: number; to: number }) => from < to;
const orderProblem = { path: ['to'], message: 'must be later than "from"' };

/** `1,2,3` as ids. */
const idList = z
  .string()
  .max(5_000, 'may be at most 5000 characters long')
  .default('')
  .transform((text) => [...new Set(text ? text.split(',').map(Number) : [])])
  .pipe(z.array(subjectId).max(MOST_LAYERS * 5, `may name at most ${MOST_LAYERS * 5} subjects`));

export const calendarQuery = z
  .strictObject({
    ...span,
    subjects: idList,
    /** Whether what I declined is wanted too, which stands in nobody's calendar. */
    declined: z.literal('yes', { error: 'must be "yes" or left out' }).optional(),
  })
  .refine(inOrder, orderProblem)
  .refine(({ from, to }) => to - from <= 400 * DAY_MS, {
    path: ['to'],
    message: 'may be at most 400 days after "from"',
  });

/** One span of somebody else's time, as far as I may see it. */
export interface LayerItem {
  /** Null where only the time is shown. */
  eventId: string | null;
  occurrenceId: number;
  recurrenceId: string | null;
  title: string | null;
  place: string | null;
  start: number;
  end: number;
  allDay: boolean;
  occupancy: 'busy' | 'tentative' | 'away' | 'free';
}

export interface SubjectCalendar {
  id: number;
  /** `none`: nothing is shared with me, which does not mean free. */
  knowledge: 'known' | 'none';
  /** Why titles are not shown, in words; null where they are. */
  reason: string | null;
  items: LayerItem[];
}

export interface CalendarResponse {
  items: CalendarItem[];
  subjects: SubjectCalendar[];
}

export const fullnessQuery = z
  .strictObject({ first: calendarDate, days: z.coerce.number().int().min(1).max(800) })
  .strict();

/** How full each day of my zone is, from `first` on. */
export interface FullnessResponse {
  first: string;
  /** Minutes taken, overlaps counted once; whole days apart. */
  minutes: number[];
  /** Things that happen, whole days included. */
  counts: number[];
}

export const searchCalendarQuery = z
  .strictObject({
    q: line(100).default(''),
    category: z.coerce.number().pipe(subjectId).optional(),
    organizer: z.enum(['me', 'others'], { error: 'must be "me" or "others"' }).optional(),
    reply: z
      .enum(['needs-action', 'accepted', 'tentative', 'declined'], {
        error: 'must be "needs-action", "accepted", "tentative" or "declined"',
      })
      .optional(),
    repeats: z.enum(['yes', 'no'], { error: 'must be "yes" or "no"' }).optional(),
    kind: z
      .enum(['meeting', 'own', 'booking', 'away'], {
        error: 'must be "meeting", "own", "booking" or "away"',
      })
      .optional(),
  })
  .refine((query) => Object.values(query).some(Boolean), {
    path: ['q'],
    message: 'must not be empty unless something else is asked for',
  });
export type CalendarSearch = z.output<typeof searchCalendarQuery>;

/** An event that a search found, with its occurrence nearest to now. */
export interface FoundEvent extends CalendarItem {
  /** How often it happens; 1 for a single event. */
  occurrences: number;
  /** A line of its text around what was searched, where the title does not show it. */
  excerpt: string | null;
}

export const LAYER_COLOURS = [
  'gentian',
  'heather',
  'lake',
  'spruce',
  'moss',
  'ochre',
  'rowan',
  'rose',
  'slate',
  'peat',
] as const;
const colour = z.enum(LAYER_COLOURS, { error: `must be one of ${LAYER_COLOURS.join(', ')}` });
export type LayerColour = (typeof LAYER_COLOURS)[number];

export const newLayerRequest = z
  .strictObject({ subjectId: subjectId.optional(), teamId: subjectId.optional() })
  .refine(({ subjectId: s, teamId: t }) => (s === undefined) !== (t === undefined), {
    path: ['subjectId'],
    message: 'or "teamId" must be given, one of the two',
  });
export type NewLayerRequest = z.input<typeof newLayerRequest>;

export const changeLayerRequest = z.strictObject({
  colour: colour.optional(),
  shown: z.boolean({ error: 'must be true or false' }).optional(),
});
export type ChangeLayerRequest = z.input<typeof changeLayerRequest>;

/** Somebody's or something's calendar that I lay over mine. */
export interface Layer {
  id: number;
  kind: 'person' | 'resource' | 'team';
  name: string;
  colour: LayerColour;
  shown: boolean;
  /** The person or resource, or everyone of the team. */
  subjectIds: number[];
}

/** Something cancelled in the last 30 days that can be restored. */
export interface CancelledItem {
  eventId: string;
  version: number;
  /** Null for the whole event. */
  occurrence: string | null;
  title: string;
  start: number;
  end: number;
  allDay: boolean;
  /** The rule in words, where a whole series was cancelled. */
  sentence: string | null;
  cancelledAt: number;
  attendeeCount: number;
}

export interface Holiday {
  date: string;
  name: string;
}
