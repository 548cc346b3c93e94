import {
  OCCUPANCIES,
  VISIBILITIES,
  type Occupancy,
  type SharingLevel,
} from '../availability/busy.ts';

/** What holds for a field of whatever kind. */
interface Common {
  /** Whether one date of a series may say something else. */
  perDate: boolean;
  /** The least level of sharing at which others see it. */
  level: SharingLevel;
  /** Its property in iCalendar (RFC 5545); null where it has none, or one that is written out. */
  property: string | null;
  /** What it is called in sentences about a change. */
  name: string;
  /** What it is called above its value. */
  label: string;
  /** Whether it decides how the time of those who come is taken. */
  takesTime?: true;
  /** What a letter about a change says of it; nothing where it is left out. */
  told?: (was: never, now: never) => string;
}

/** One of some values, each as it stands behind the label, and as a sentence by itself where it needs to be said. */
interface Choices<Value extends string | number> {
  words: Readonly<Record<Value, string>>;
  shown?: (value: never) => string | null;
  usual: Value;
}

/** One line of text, HTML of a few kinds of element, one of some words, or a whole number; some of them offered. */
export type FieldOfMeeting = Common &
  (
    | { kind: 'line'; longest: number; required?: true }
    | { kind: 'rich'; longest: number }
    | ({ kind: 'choice'; among: readonly string[] } & Choices<string>)
    | ({ kind: 'number'; least: number; most: number } & Choices<number>)
  );

const LONGEST_TITLE = 200;
export const LONGEST_PLACE = 200;
const LONGEST_TEXT = 20_000;

const SHOWN_AS: Record<Occupancy, string | null> = {
  busy: null,
  tentative: 'My time: perhaps taken',
  away: 'My time: away',
  free: 'My time: still free',
};

const priorityWords = (value: number): string | null =>
  value === 0
    ? null
    : value < 5
      ? 'High priority'
      : value === 5
        ? 'Medium priority'
        : 'Low priority';

/**
 * What a meeting says of itself. All else that knows of these fields derives it from here: values and
 * overrides of single dates, requests and answers, columns, edits and their undo, iCalendar, letters, forms.
 * Times, rule, people and places are no plain fields, and written out.
 */
export const MEETING_FIELDS = {
  title: {
    kind: 'line',
    longest: LONGEST_TITLE,
    required: true,
    perDate: true,
    level: 'titles',
    property: 'summary',
    name: 'title',
    label: 'Title',
    told: (was: string) => `It was called “${was}”.`,
  },
  description: {
    kind: 'rich',
    longest: LONGEST_TEXT,
    perDate: true,
    level: 'everything',
    property: 'description',
    name: 'description',
    label: 'Description',
    told: () => 'What it is about was written anew.',
  },
  place: {
    kind: 'line',
    longest: LONGEST_PLACE,
    perDate: true,
    level: 'titles',
    property: 'location',
    name: 'place',
    label: 'Place',
    told: (was: string) => (was ? `The place was “${was}”.` : 'It has a place now.'),
  },
  agenda: {
    kind: 'rich',
    longest: LONGEST_TEXT,
    perDate: true,
    level: 'everything',
    property: null,
    name: 'agenda',
    label: 'Agenda',
  },
  notes: {
    kind: 'rich',
    longest: LONGEST_TEXT,
    perDate: true,
    level: 'everything',
    property: null,
    name: 'notes',
    label: 'Notes',
  },
  /** How it takes the time of those who come; `free` is TRANSP in iCalendar. */
  showsAs: {
    kind: 'choice',
    among: OCCUPANCIES,
    usual: 'busy',
    perDate: true,
    level: 'busy',
    property: null,
    name: 'way it shows',
    label: 'My time then',
    words: { busy: 'taken', tentative: 'perhaps taken', away: 'away', free: 'still free' },
    shown: (value: Occupancy) => SHOWN_AS[value],
    takesTime: true,
  },
  /** From 1, the highest, to 9; 0 where nothing is said (RFC 5545 section 3.8.1.9). */
  priority: {
    kind: 'number',
    least: 0,
    most: 9,
    usual: 0,
    perDate: true,
    level: 'everything',
    property: 'priority',
    name: 'priority',
    label: 'Priority',
    words: { 0: 'as usual', 1: 'high', 5: 'medium', 9: 'low' },
    shown: (value: number) => priorityWords(value),
    told: (_: number, now: number) => `${priorityWords(now) ?? 'Its priority is as usual'} now.`,
  },
  /** Whether it is sure to take place; what is not holds everybody's time tentatively (STATUS). */
  certainty: {
    kind: 'choice',
    among: ['confirmed', 'tentative'],
    usual: 'confirmed',
    perDate: true,
    level: 'everything',
    property: 'status',
    name: 'certainty',
    label: 'Certain',
    words: { confirmed: 'yes', tentative: 'not yet' },
    shown: (value: string) => (value === 'tentative' ? 'Not certain yet' : null),
    takesTime: true,
    told: (_: string, now: string) =>
      now === 'tentative' ? 'It is not certain any more.' : 'It is certain now.',
  },
  /** What others see of it; CLASS in iCalendar. */
  visibility: {
    kind: 'choice',
    among: VISIBILITIES,
    usual: 'default',
    perDate: false,
    level: 'busy',
    property: null,
    name: 'visibility',
    label: 'Others see',
    words: {
      default: 'what I share',
      public: 'its title',
      private: 'who has it, not what for',
      hidden: 'only that it is taken',
    },
  },
} as const satisfies Record<string, FieldOfMeeting>;

export type FieldName = keyof typeof MEETING_FIELDS;
type Table = typeof MEETING_FIELDS;

export type FieldValue<Name extends FieldName> = Table[Name] extends {
  among: readonly (infer Choice)[];
}
  ? Choice
  : Table[Name] extends { kind: 'number' }
    ? number
    : string;

/** The values of all fields. */
export type MeetingFields = { [Name in FieldName]: FieldValue<Name> };

/** The fields of which a date of a series may have its own. */
export type DateFieldName = {
  [Name in FieldName]: Table[Name]['perDate'] extends true ? Name : never;
}[FieldName];
export type DateFields = Pick<MeetingFields, DateFieldName>;

export const FIELD_NAMES = Object.keys(MEETING_FIELDS) as FieldName[];
export const DATE_FIELD_NAMES = FIELD_NAMES.filter(
  (name): name is DateFieldName => MEETING_FIELDS[name].perDate,
);
/** Those that are texts, in which words are looked for. */
export const TEXT_FIELD_NAMES = FIELD_NAMES.filter((name) =>
  ['line', 'rich'].includes(MEETING_FIELDS[name].kind),
);

export const fieldOf = (name: FieldName): FieldOfMeeting => MEETING_FIELDS[name];

type RichFieldName = {
  [Name in FieldName]: Table[Name]['kind'] extends 'rich' ? Name : never;
}[FieldName];
export const RICH_FIELD_NAMES = FIELD_NAMES.filter(
  (name): name is RichFieldName => MEETING_FIELDS[name].kind === 'rich',
);
/** Those by which the time of those who come is taken. */
export const TIME_FIELD_NAMES = DATE_FIELD_NAMES.filter(
  (name) => 'takesTime' in MEETING_FIELDS[name],
);
/** Those of which one of some values is chosen. */
export const CHOICE_FIELD_NAMES = FIELD_NAMES.filter((name) => 'words' in MEETING_FIELDS[name]);
/** Those that stand in a message of iCalendar under a property of their own. */
type PropertyFieldName = {
  [Name in FieldName]: Table[Name]['property'] extends string ? Name : never;
}[FieldName];
export type PropertyFields = Pick<MeetingFields, PropertyFieldName>;
export const PROPERTY_FIELD_NAMES = FIELD_NAMES.filter(
  (name): name is PropertyFieldName => MEETING_FIELDS[name].property !== null,
);

/** Some of the fields of whatever has them. */
export const pickFields = <Name extends FieldName, Values extends { [N in Name]?: unknown }>(
  names: readonly Name[],
  values: Values,
): Pick<Values, Name> =>
  Object.fromEntries(names.map((name) => [name, values[name]])) as Pick<Values, Name>;

/** For each field what a function makes of it. */
export const eachField = <Made>(make: (field: FieldOfMeeting, name: FieldName) => Made) =>
  Object.fromEntries(FIELD_NAMES.map((name) => [name, make(fieldOf(name), name)])) as {
    [Name in FieldName]: Made;
  };

/** A value of a field as a sentence by itself; nothing where it is the usual, or no choice. */
export function shownOf(name: FieldName, value: string | number): string | null {
  const field = fieldOf(name);
  if (!('words' in field)) return null;
  const shown = field.shown as ((value: string | number) => string | null) | undefined;
  return shown?.(value) ?? null;
}

/** What a field is where nothing is said of it. */
export const usualOf = (field: FieldOfMeeting): string | number =>
  'usual' in field ? field.usual : '';

export const USUAL_FIELDS = eachField(usualOf) as MeetingFields;
