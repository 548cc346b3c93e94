/** What somebody is called who was forgotten. */
export const FORGOTTEN_NAME = 'somebody who left';

/** Where names and addresses of people stand besides their own entry. */
export interface NamedIn {
  table: string;
  texts?: readonly string[];
  /** Calendar text, whose lines are folded (RFC 5545 section 3.1). */
  folded?: readonly string[];
  /** JSON. */
  values?: readonly string[];
}

const OF_EVENTS = ['title', 'description', 'place', 'agenda', 'notes'];

/**
 * Every column that can hold somebody's name or address. A test writes a name into all there are, forgets it, and
 * looks through every column of every table for it.
 */
export const NAMED_IN: readonly NamedIn[] = [
  { table: 'event', texts: OF_EVENTS, values: ['draft'] },
  { table: 'occurrence_override', texts: OF_EVENTS },
  { table: 'attendance', texts: ['note'] },
  { table: 'occurrence_reply', texts: ['note'] },
  { table: 'comment', texts: ['words'] },
  { table: 'booking_note', texts: ['note', 'contact'] },
  { table: 'closure', texts: ['reason'] },
  { table: 'waiting', texts: ['title'] },
  { table: 'resource', texts: ['description'] },
  { table: 'attachment', texts: ['name'] },
  { table: 'category', texts: ['name'] },
  { table: 'line_up', texts: ['name'], values: ['members'] },
  { table: 'ledger_view', texts: ['name', 'query'] },
  { table: 'preference', texts: ['booking_contact'] },
  { table: 'believed_sender', texts: ['principal', 'sender'] },
  { table: 'fact', values: ['details'] },
  { table: 'revision', values: ['edits', 'split_off'] },
  { table: 'notification', values: ['details'] },
  { table: 'held_before', values: ['meeting'] },
  {
    table: 'mail',
    texts: [
      ...['sender_name', 'sender_email', 'recipient_name', 'recipient_email', 'subject'],
      ...['body_text', 'body_html', 'said', 'failure'],
    ],
    folded: ['calendar'],
  },
  {
    table: 'incoming_mail',
    texts: ['sender', 'recipient', 'subject', 'words', 'reason', 'why', 'sends', 'cancels'],
    folded: ['calendar'],
  },
];

/** A value as it stands within JSON text. */
const inJson = (place: string): string => `trim(both '"' from to_json(${place}::text)::text)`;
const unfolded = (column: string): string =>
  String.raw`regexp_replace(${column}, '\r?\n[ \t]', '', 'g')`;

/**
 * The statement that puts one text in the place of another in a table, in so many rows at most.
 * $1 what is looked for, $2 its pattern, $3 what stands in its place, $4 how many rows
 */
export function replacing({ table, texts = [], folded = [], values = [] }: NamedIn): string {
  const set = [
    ...texts.map((column) => `${column} = regexp_replace(${column}, $2, $3, 'gi')`),
    ...folded.map(
      (column) => `${column} = case when ${unfolded(column)} ~* $2
                   then regexp_replace(${unfolded(column)}, $2, $3, 'gi') else ${column} end`,
    ),
    ...values.map(
      (column) => `${column} = replace(${column}::text, ${inJson('$1')}, ${inJson('$3')})::jsonb`,
    ),
  ];
  const holds = [
    ...texts.map((column) => `${column} ~* $2`),
    ...folded.map((column) => `${unfolded(column)} ~* $2`),
    ...values.map((column) => `position(${inJson('$1')} in ${column}::text) > 0`),
  ];
  return `update ${table} set ${set.join(', ')}
    where ctid = any(array(select ctid from ${table}
      where $1::text is not null and $2::text is not null and (${holds.join(' or ')}) limit $4 for update))`;
}

/** A pattern of a text that finds it also where a line ends between two of its words. */
export const patternOf = (text: string): string =>
  text
    .split(/\s+/)
    .map((word) => word.replace(/[.*+?^${}()|[\]\\]/g, String.raw`\$&`))
    .join(String.raw`\s+`);

/** Signs that are written otherwise in HTML. */
export const inHtml = (text: string): string =>
  text
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;')
    .replaceAll("'", '&#39;');
