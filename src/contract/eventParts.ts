import { z } from 'zod';
import {
  eachField,
  MEETING_FIELDS,
  usualOf,
  type FieldName,
  type FieldOfMeeting,
  type MeetingFields,
} from '../core/meetings/fields.ts';
import { parseRule } from '../core/recurrence/rule.ts';
import {
  line,
  mailAddress,
  plainText,
  requiredLine,
  subjectId,
  text,
  wallTime,
  zone,
} from './common.ts';
import { MOST_EXCEPTIONS } from './limits.ts';

export const eventTimes = z.strictObject({
  startsAt: wallTime,
  endsAt: wallTime,
  zone,
  /** The zone in which `endsAt` is read, where it is another one. */
  endZone: zone.nullish().transform((value) => value ?? null),
  /** Which one is meant where a clock change repeats the start. */
  fold: z.enum(['earlier', 'later'], { error: 'must be "earlier" or "later"' }).default('earlier'),
  /** Whole days: both times are then midnights, the end not belonging to it. */
  allDay: z.boolean().default(false),
});

/** How an event repeats: a rule, and occurrences of it that are left out. */
export const repeats = z.strictObject({
  rule: z
    .string({ error: 'must be a rule such as FREQ=WEEKLY;BYDAY=TU' })
    .max(500, 'may be at most 500 characters long')
    .superRefine((text, ctx) => {
      try {
        parseRule(text);
      } catch (error) {
        ctx.addIssue({ code: 'custom', message: (error as Error).message });
      }
    }),
  except: z
    .array(wallTime, { error: 'must be a list of local times' })
    .max(
      MOST_EXCEPTIONS,
      `may leave out at most ${MOST_EXCEPTIONS} dates; end the series or change its rule`,
    )
    .default([]),
});
export type Repeats = z.output<typeof repeats>;

export const recurrenceId = wallTime;

/** What to do about a date of a series on which a resource is taken. */
const dateChoice = z.discriminatedUnion(
  'do',
  [
    z.strictObject({ do: z.literal('leave-out'), at: recurrenceId }),
    z.strictObject({ do: z.literal('without'), at: recurrenceId, resourceId: subjectId }),
    z.strictObject({
      do: z.literal('instead'),
      at: recurrenceId,
      resourceId: subjectId,
      instead: subjectId,
    }),
    z.strictObject({
      do: z.literal('move'),
      at: recurrenceId,
      startsAt: wallTime,
      endsAt: wallTime,
    }),
  ],
  { error: 'must have "do" as "leave-out", "without", "instead" or "move"' },
);
export type DateChoice = z.output<typeof dateChoice>;
export const dates = z
  .array(dateChoice, { error: 'must be a list' })
  .max(MOST_EXCEPTIONS, `may name at most ${MOST_EXCEPTIONS} dates`)
  .default([]);

export const reminder = z.strictObject({
  minutes: z
    .number({ error: 'must be a number of minutes' })
    .int('must be whole minutes')
    .min(0, 'must not be after the start')
    .max(40_320, 'may be at most 28 days before'),
  means: z.enum(['popup', 'mail'], { error: 'must be "popup" or "mail"' }),
});
export const reminderList = z
  .array(reminder, { error: 'must be a list' })
  .max(5, 'may name at most 5 reminders')
  .refine(
    (list) => new Set(list.map(({ minutes, means }) => `${minutes} ${means}`)).size === list.length,
    'must not name a reminder twice',
  );
export type Reminder = z.infer<typeof reminder>;

const attendeeRole = z.enum(['required', 'optional'], {
  error: 'must be "required" or "optional"',
});

const invitee = z.union(
  [
    z.strictObject({ personId: subjectId, role: attendeeRole }),
    z.strictObject({ email: mailAddress, name: line(120).default(''), role: attendeeRole }),
  ],
  { error: 'must name a person by "personId" or an outside address by "email", with a "role"' },
);
export type Invitee = z.infer<typeof invitee>;

export const invitees = z
  .array(invitee, { error: 'must be a list' })
  .max(500, 'may name at most 500 people');

export const resourceIds = z
  .array(subjectId, { error: 'must be a list of ids' })
  .max(50, 'may name at most 50 resources')
  .refine((ids) => new Set(ids).size === ids.length, 'must not name a resource twice');

/** What may be sent of a field; of HTML the server takes out what is not of a few kinds of element. */
function schemaOf(field: FieldOfMeeting): z.ZodType {
  switch (field.kind) {
    case 'line':
      return field.required ? requiredLine(field.longest) : line(field.longest);
    case 'rich':
      return plainText(field.longest);
    case 'choice': {
      const named = field.among.map((one) => `"${one}"`);
      return z.enum(field.among, {
        error: `must be ${named.slice(0, -1).join(', ')} or ${named.at(-1)}`,
      });
    }
    case 'number':
      return z
        .number({ error: 'must be a number' })
        .int('must be a whole number')
        .min(field.least, `must be at least ${field.least}`)
        .max(field.most, `may be at most ${field.most}`);
  }
}

type FieldSchema<Name extends FieldName> = z.ZodType<MeetingFields[Name], MeetingFields[Name]>;
const schemas = eachField(schemaOf);

/** The fields of a new event: a title, and what is left out as it usually is. */
export const newFields = eachField((field, name) =>
  'required' in field ? schemas[name] : schemas[name].default(usualOf(field)),
) as {
  [Name in FieldName]: (typeof MEETING_FIELDS)[Name] extends { required: true }
    ? FieldSchema<Name>
    : z.ZodDefault<FieldSchema<Name>>;
};
/** The fields of a change: what is left out stays. */
export const changedFields = eachField((_, name) => schemas[name].optional()) as {
  [Name in FieldName]: z.ZodOptional<FieldSchema<Name>>;
};
/** The fields of an answer. */
export const shownFields = eachField((field) =>
  field.kind === 'choice' ? z.enum(field.among) : field.kind === 'number' ? z.int() : z.string(),
) as { [Name in FieldName]: FieldSchema<Name> };

export const message = text(2000);

export const allowed = z.boolean({ error: 'must be true or false' });
export const inviteeRights = z.strictObject({
  /** They may change it as its organizer does, but not cancel it. */
  change: allowed.default(false),
  /** They may ask others as well. */
  invite: allowed.default(false),
  /** They see who else is asked. */
  list: allowed.default(true),
  /** People outside see how many of the others are free. */
  count: allowed.default(false),
});

export const tell = z.enum(['everyone', 'nobody'], { error: 'must be "everyone" or "nobody"' });
