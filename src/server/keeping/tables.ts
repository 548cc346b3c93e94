import { LONGEST_KEPT_DAYS } from './limits.ts';

/**
 * Every table of the database: whose it is, and what ends its rows. A test fails for a table that is not here, and
 * for one whose rows have no end; docs/OPERATIONS.md lists them.
 */

/** What ends the rows of a table. */
type End =
  /** They go with the row of another table that they hang on. */
  | { with: string }
  /** They are forgotten at an age, in days; the operator may say another. */
  | { days: number; since: string; only?: string }
  /** They end by what somebody does, or by themselves at a moment that they name. */
  | { by: string };

interface Table {
  /** The capability that writes it: its folder. */
  owner: string;
  /** Others that write it too, which a reason stands beside. */
  also?: readonly string[];
  end: End;
}

export const TABLES = {
  account_link: { owner: 'accounts', end: { by: 'being used, or its time' } },
  attachment: { owner: 'attachments', end: { with: 'event' } },
  attendance: { owner: 'participants', end: { with: 'event' } },
  believed_sender: { owner: 'events', end: { days: 400, since: 'used_at' } },
  booking_note: { owner: 'reservations', end: { with: 'event' } },
  booking_tally: { owner: 'ledger', end: { with: 'resource' } },
  booking_tally_change: { owner: 'ledger', end: { with: 'resource' } },
  category: { owner: 'preferences', end: { with: 'person' } },
  // Of people: their time, which follows from dates and answers.
  claim: { owner: 'reservations', also: ['events'], end: { with: 'occurrence' } },
  charge: { owner: 'administration', end: { with: 'person' } },
  closure: { owner: 'reservations', end: { with: 'resource' } },
  // As long as is set, where something is.
  comment: { owner: 'comments', also: ['keeping'], end: { with: 'event' } },
  coordination: { owner: 'administration', end: { with: 'person' } },
  delegate: { owner: 'delegates', end: { with: 'person' } },
  device: { owner: 'session', also: ['keeping', 'accounts'], end: { days: 365, since: 'seen_at' } },
  directory_token: { owner: 'directory', end: { by: 'an administrator' } },
  event: {
    owner: 'events',
    also: ['keeping'],
    end: { by: 'what is set for the past; else it stays' },
  },
  event_category: { owner: 'personal', end: { with: 'event' } },
  event_resource: { owner: 'events', end: { with: 'event' } },
  // Written with the facts of the same change, in one statement; what was taken back is marked.
  revision: { owner: 'facts', also: ['keeping', 'events'], end: { days: 30, since: 'at' } },
  fact: { owner: 'facts', end: { days: 730, since: 'at' } },
  // A floor that a place names first is added with it.
  floor: { owner: 'administration', also: ['catalogue'], end: { with: 'site' } },
  favourite_place: { owner: 'places', end: { with: 'person' } },
  holiday: { owner: 'administration', end: { with: 'site' } },
  idempotency_key: { owner: 'http', end: { by: 'a day after the request' } },
  held_before: { owner: 'letters', end: { days: 3, since: 'created_at' } },
  incoming_mail: { owner: 'incoming', end: { days: 180, since: 'received_at' } },
  // A letter that is withdrawn takes its job along.
  job: {
    owner: 'jobs',
    also: ['administration', 'accounts', 'mail'],
    end: { by: 'being done, or given up' },
  },
  layer: { owner: 'calendar', end: { with: 'person' } },
  ledger_view: { owner: 'ledger', end: { with: 'person' } },
  line_up: { owner: 'lineUps', end: { with: 'person' } },
  // That one did not arrive is said by another that comes in.
  mail: {
    owner: 'mail',
    also: ['incoming'],
    end: { days: 400, since: 'created_at', only: '(sent_at is not null or failed_at is not null)' },
  },
  mailroom_message: { owner: 'the Mailroom', end: { days: 400, since: 'received_at' } },
  migration: { owner: 'db', end: { by: 'nothing: it says which tables there are' } },
  no_show: { owner: 'bookings', end: { days: 730, since: 'noted_at' } },
  notification: { owner: 'notifications', end: { days: 60, since: 'at' } },
  occurrence: { owner: 'events', end: { with: 'event' } },
  occurrence_override: { owner: 'events', end: { with: 'event' } },
  occurrence_reply: { owner: 'participants', end: { with: 'event' } },
  organization: { owner: 'setup', also: ['administration'], end: { by: 'an administrator' } },
  // Their own settings and password, when they were seen, the day of their last daily letter, and who they are.
  person: {
    owner: 'people',
    also: [
      'keeping',
      'accounts',
      'administration',
      'directory',
      'notifications',
      'preferences',
      'session',
      'setup',
    ],
    end: { with: 'subject' },
  },
  passkey: { owner: 'passkeys', also: ['keeping'], end: { with: 'person' } },
  passkey_challenge: { owner: 'passkeys', end: { by: 'being answered, or minutes' } },
  place_free_day: { owner: 'places', end: { with: 'resource' } },
  place_photo: { owner: 'places', end: { with: 'resource' } },
  // Whom somebody last named to be asked about their bookings.
  preference: {
    owner: 'preferences',
    also: ['administration', 'reservations'],
    end: { with: 'person' },
  },
  provider_identity: { owner: 'providers', also: ['keeping'], end: { with: 'person' } },
  published_busy: { owner: 'published', end: { with: 'published_calendar' } },
  published_calendar: { owner: 'published', end: { with: 'person' } },
  rate_limit: { owner: 'session', end: { by: 'the limiter, an hour after it is over' } },
  reminder: { owner: 'personal', end: { with: 'event' } },
  reminder_choice: { owner: 'personal', end: { with: 'event' } },
  reminder_notice: { owner: 'reminders', end: { days: 30, since: 'due_at' } },
  reservation: { owner: 'reservations', end: { with: 'occurrence' } },
  // Whose a place is, and the name of its floor.
  resource: { owner: 'catalogue', also: ['administration', 'places'], end: { with: 'subject' } },
  session: { owner: 'session', end: { by: 'signing out, or thirty days' } },
  // Up to when was reminded, whether letters arrive, and what is left of the first hour.
  setting: {
    owner: 'setup',
    also: ['administration', 'keeping', 'mail', 'reminders'],
    end: { by: 'nothing: a handful of rows' },
  },
  sign_in_attempt: { owner: 'providers', end: { by: 'coming back, or a quarter of an hour' } },
  sign_in_provider: { owner: 'providers', end: { by: 'an administrator' } },
  site: { owner: 'setup', also: ['administration'], end: { by: 'an administrator' } },
  stored_file: { owner: 'attachments', end: { by: 'the last attachment of it' } },
  // Places are subjects, too.
  subject: {
    owner: 'catalogue',
    also: ['keeping', 'administration', 'setup'],
    end: { by: 'an administrator' },
  },
  team: { owner: 'administration', also: ['directory'], end: { by: 'an administrator' } },
  team_member: { owner: 'administration', end: { with: 'team' } },
  waiting: { owner: 'waiting', end: { by: 'being given, or its time' } },
  working_shift: {
    owner: 'preferences',
    also: ['administration', 'setup'],
    end: { with: 'person' },
  },
} as const satisfies Record<string, Table>;

/** Tables whose rows are forgotten at an age. */
export type AgedTable = {
  [Name in keyof typeof TABLES]: (typeof TABLES)[Name]['end'] extends { days: number }
    ? Name
    : never;
}[keyof typeof TABLES];

export interface Aged {
  name: AgedTable;
  days: number;
  since: string;
  only?: string;
}

export const AGED: readonly Aged[] = Object.entries(TABLES).flatMap(([name, { end }]) =>
  'days' in end ? [{ name: name as AgedTable, ...end }] : [],
);

/** After how many days the rows of each table are forgotten. */
export type KeepDays = Readonly<Record<AgedTable, number>>;

export const USUAL_DAYS = Object.fromEntries(
  AGED.map(({ name, days }) => [name, days]),
) as KeepDays;

/**
 * Reads how long what is kept, `mail=90,fact=3650`; what is not named is kept as usual.
 * @throws Error naming the setting and what is allowed
 */
export function readKeepDays(text: string | undefined): KeepDays {
  const given = (text ?? '').split(',').map((one) => one.trim());
  const days = { ...USUAL_DAYS };
  for (const one of given.filter(Boolean)) {
    const [name = '', count = ''] = one.split('=').map((part) => part.trim());
    const number = Number(count);
    if (!Object.hasOwn(days, name))
      throw new Error(
        `MARMOT_KEEP_DAYS names "${name}"; it may name ${AGED.map((aged) => aged.name).join(', ')}.`,
      );
    if (!/^\d+$/.test(count) || number < 1 || number > LONGEST_KEPT_DAYS)
      throw new Error(
        `MARMOT_KEEP_DAYS must give ${name} a number of days from 1 to ${LONGEST_KEPT_DAYS}, not "${count}".`,
      );
    days[name as AgedTable] = number;
  }
  return days;
}

/** The tables with their ends, as OPERATIONS lists them. */
export function tablesInWords(): string {
  const said = (end: End): string =>
    'with' in end
      ? `with its \`${end.with}\``
      : 'days' in end
        ? `after ${end.days} days (\`MARMOT_KEEP_DAYS\`)`
        : end.by;
  const rows = Object.entries(TABLES).map(([name, { owner, end }]) => [
    `\`${name}\``,
    owner,
    said(end),
  ]);
  const widths = [0, 1, 2].map((k) =>
    Math.max(...[['table', 'whose', 'its rows end'], ...rows].map((row) => row[k]!.length)),
  );
  const line = (cells: readonly string[]) =>
    `| ${cells.map((cell, k) => cell.padEnd(widths[k]!)).join(' | ')} |`;
  return [
    line(['table', 'whose', 'its rows end']),
    `| ${widths.map((width) => '-'.repeat(width)).join(' | ')} |`,
    ...rows.map(line),
  ].join('\n');
}
