import { z } from 'zod';
import { byId, calendarDate, instant, line, subjectId } from './common.ts';
import { calendarItem } from './eventDetail.ts';
import { holiday, occupancy } from './values.ts';
import { defineRoutes } from './route.ts';
import { MOST_LAYERS } from './limits.ts';

const DAY_MS = 24 * 3_600_000;

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
export const layerItem = z.strictObject({
  /** Null where only the time is shown. */
  eventId: z.uuid().nullable(),
  occurrenceId: z.int(),
  recurrenceId: z.string().nullable(),
  title: z.string().nullable(),
  place: z.string().nullable(),
  start: z.int(),
  end: z.int(),
  allDay: z.boolean(),
  occupancy: occupancy,
});
export type LayerItem = z.output<typeof layerItem>;

export const subjectCalendar = z.strictObject({
  id: z.int(),
  /** `none`: nothing is shared with me, which does not mean free. */
  knowledge: z.enum(['known', 'none']),
  /** Why titles are not shown, in words; null where they are. */
  reason: z.string().nullable(),
  items: z.array(layerItem),
});
export type SubjectCalendar = z.output<typeof subjectCalendar>;

export const calendarResponse = z.strictObject({
  items: z.array(calendarItem),
  subjects: z.array(subjectCalendar),
});
export type CalendarResponse = z.output<typeof calendarResponse>;

export const fullnessQuery = z
  .strictObject({ first: calendarDate, days: z.coerce.number().int().min(1).max(800) })
  .strict();

/** How full each day of my zone is, from `first` on. */
export const fullnessResponse = z.strictObject({
  first: z.string(),
  /** Minutes taken, overlaps counted once; whole days apart. */
  minutes: z.array(z.int()),
  /** Things that happen, whole days included. */
  counts: z.array(z.int()),
});
export type FullnessResponse = z.output<typeof fullnessResponse>;

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

/** An event that a search found, with its next occurrence, or the last where none is to come. */
export const foundEvent = calendarItem.extend({
  /** How often it happens; 1 for a single event. */
  occurrences: z.int(),
  /** A line of its text around what was searched, where the title does not show it. */
  excerpt: z.string().nullable(),
});
export type FoundEvent = z.output<typeof foundEvent>;

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
export const layer = z.strictObject({
  id: z.int(),
  kind: z.enum(['person', 'resource', 'team']),
  name: z.string(),
  colour: z.enum(LAYER_COLOURS),
  shown: z.boolean(),
  /** The person or resource, or everyone of the team. */
  subjectIds: z.array(z.int()),
});
export type Layer = z.output<typeof layer>;

/** Something cancelled in the last 30 days that can be restored. */
export const cancelledItem = z.strictObject({
  eventId: z.uuid(),
  version: z.int(),
  /** Null for the whole event. */
  occurrence: z.string().nullable(),
  title: z.string(),
  start: z.int(),
  end: z.int(),
  allDay: z.boolean(),
  /** The rule in words, where a whole series was cancelled. */
  sentence: z.string().nullable(),
  cancelledAt: z.int(),
  attendeeCount: z.int(),
});
export type CancelledItem = z.output<typeof cancelledItem>;

const layerList = z.strictObject({ layers: z.array(layer) });
const holidayQuery = z.strictObject({ first: calendarDate, last: calendarDate });

/** /api/calendar: what stands in calendars, how full days are, search, layers, what was cancelled. */
export const calendarRoutes = defineRoutes({
  'GET /api/calendar': {
    may: 'read shared',
    query: calendarQuery,
    answer: calendarResponse,
    replica: true,
  },
  'GET /api/calendar/fullness': {
    may: 'read own',
    query: fullnessQuery,
    answer: fullnessResponse,
    replica: true,
  },
  'GET /api/calendar/holidays': {
    may: 'read own',
    query: holidayQuery,
    answer: z.strictObject({ holidays: z.array(holiday) }),
    replica: true,
  },
  'GET /api/calendar/search': {
    may: 'read shared',
    query: searchCalendarQuery,
    answer: z.strictObject({ found: z.array(foundEvent) }),
    replica: true,
  },
  'GET /api/calendar/cancelled': {
    may: 'read own',
    answer: z.strictObject({ cancelled: z.array(cancelledItem) }),
    replica: true,
  },
  'GET /api/calendar/layers': { may: 'read own', answer: layerList, replica: true },
  'POST /api/calendar/layers': {
    may: 'change own',
    body: newLayerRequest,
    answer: layerList,
    status: 201,
  },
  'PATCH /api/calendar/layers/:id': {
    may: 'change own-by-id',
    params: byId,
    body: changeLayerRequest,
    answer: layerList,
  },
  'DELETE /api/calendar/layers/:id': {
    may: 'change own-by-id',
    params: byId,
    answer: layerList,
  },
});
