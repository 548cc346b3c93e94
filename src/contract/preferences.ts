import { z } from 'zod';
import { byId, requiredLine, zone } from './common.ts';
import { LAYER_COLOURS } from './calendar.ts';
import { hearingChange } from './notifications.ts';
import { reminderList } from './eventParts.ts';
import { defineRoutes } from './route.ts';
import { preferences } from './session.ts';

const minuteOfDay = (least: number, most: number) =>
  z
    .number({ error: 'must be minutes after midnight' })
    .int('must be whole minutes')
    .min(least, `must be at least ${least} minutes after midnight`)
    .max(most, `may be at most ${most} minutes after midnight`);

const shift = z
  .strictObject({ start: minuteOfDay(0, 1439), end: minuteOfDay(1, 2880) })
  .refine(({ start, end }) => start < end, {
    path: ['end'],
    message: 'must be later than the start',
  });

export const workingHours = z
  .array(
    z
      .array(shift, { error: 'must be a list of shifts' })
      .max(4, 'may have at most 4 shifts')
      .refine(
        (shifts) => shifts.every((one, k) => k === 0 || one.start >= shifts[k - 1]!.end),
        'must have shifts in order, none overlapping another',
      ),
    { error: 'must be seven lists of shifts, Monday first' },
  )
  .length(7, 'must be seven lists of shifts, Monday first');

export const changePreferencesRequest = z.strictObject({
  zone: zone.optional(),
  furtherZones: z.array(zone).max(4, 'may name at most 4 further zones').optional(),
  clock: z.enum(['24', '12'], { error: 'must be "24" or "12"' }).optional(),
  firstWeekday: z
    .number({ error: 'must be 1 for Monday to 7 for Sunday' })
    .int()
    .min(1, 'must be 1 for Monday to 7 for Sunday')
    .max(7, 'must be 1 for Monday to 7 for Sunday')
    .optional(),
  hours: workingHours.optional(),
  shownFrom: minuteOfDay(0, 1380).optional(),
  shownTo: minuteOfDay(60, 1440).optional(),
  defaultMinutes: z
    .number({ error: 'must be a number of minutes' })
    .int('must be whole minutes')
    .min(5, 'must be at least 5 minutes')
    .max(1440, 'may be at most 1440 minutes')
    .optional(),
  /** By how much a booking of mine alone may be moved when its place goes out of use. */
  shiftMinutes: z
    .number({ error: 'must be a number of minutes' })
    .int('must be whole minutes')
    .min(0, 'must be from 0 to 240 minutes')
    .max(240, 'must be from 0 to 240 minutes')
    .optional(),
  defaultReminders: reminderList.optional(),
  /** How I hear of each kind of news; those left out stay as they are. */
  hearing: hearingChange.optional(),
  arrangement: z
    .enum(['over', 'beside', 'rows'], { error: 'must be "over", "beside" or "rows"' })
    .optional(),
});
export type ChangePreferencesRequest = z.input<typeof changePreferencesRequest>;
export type PreferenceChange = z.output<typeof changePreferencesRequest>;

export const CATEGORY_PATTERNS = ['plain', 'stripes', 'dots', 'waves', 'checks'] as const;

export const categoryRequest = z.strictObject({
  name: requiredLine(40),
  colour: z.enum(LAYER_COLOURS, { error: `must be one of ${LAYER_COLOURS.join(', ')}` }),
  pattern: z.enum(CATEGORY_PATTERNS, { error: `must be one of ${CATEGORY_PATTERNS.join(', ')}` }),
});
export type CategoryRequest = z.input<typeof categoryRequest>;

export const category = categoryRequest.extend({
  id: z.int(),
  /** How many events I put into it. */
  events: z.int(),
});
export type Category = z.output<typeof category>;

const categoryList = z.strictObject({ categories: z.array(category) });

/** /api/preferences and /api/categories: what somebody has chosen for themselves. */
export const preferencesRoutes = defineRoutes({
  'PATCH /api/preferences': {
    may: 'change own',
    body: changePreferencesRequest,
    answer: z.strictObject({ preferences }),
  },
  'GET /api/categories': { may: 'read own', answer: categoryList, replica: true },
  'POST /api/categories': {
    may: 'change own',
    body: categoryRequest,
    answer: categoryList,
    status: 201,
  },
  'PATCH /api/categories/:id': {
    may: 'change own-by-id',
    params: byId,
    body: categoryRequest,
    answer: categoryList,
  },
  'DELETE /api/categories/:id': {
    may: 'change own-by-id',
    params: byId,
    answer: categoryList,
  },
});
