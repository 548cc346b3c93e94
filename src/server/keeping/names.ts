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

const unfolded = (column: string): string =>
  String.raw`regexp_replace(${column}, '\r?\n[ \t]', '', 'g')`;

/**
 * Calendar text in lines of 75 octets at most (RFC 5545 section 3.1). Lines of signs beyond ASCII, of up to four
 * octets each, are folded earlier than they have to be.
 */
const folding = (text: string): string =>
  String.raw`(select string_agg(case
                when octet_length(line) <= 75 then line
                when octet_length(line) = length(line) then regexp_replace(line, '(.{74})(?=.)', E'\\1\r\n ', 'g')
                else regexp_replace(line, '(.{18})(?=.)', E'\\1\r\n ', 'g') end, E'\r\n' order by number)
              from regexp_split_to_table(${text}, '\r?\n') with ordinality lines (line, number))`;

/**
 * The statement that puts a text in the place of another in a table, in so many rows at most.
 * $1 its pattern in JSON, $2 its pattern in texts, $3 what stands in its place, $4 how many rows
 */
export function replacing({ table, texts = [], folded = [], values = [] }: NamedIn): string {
  const set = [
    ...texts.map((column) => `${column} = regexp_replace(${column}, $2, $3, 'gi')`),
    ...folded.map(
      (column) => `${column} = case when ${unfolded(column)} ~* $2
                   then ${folding(`regexp_replace(${unfolded(column)}, $2, $3, 'gi')`)} else ${column} end`,
    ),
    ...values.map((column) => `${column} = regexp_replace(${column}::text, $1, $3, 'gi')::jsonb`),
  ];
  const holds = [
    ...texts.map((column) => `${column} ~* $2`),
    ...folded.map((column) => `${unfolded(column)} ~* $2`),
    ...values.map((column) => `${column}::text ~* $1`),
  ];
  return `update ${table} set ${set.join(', ')}
    where ctid = any(array(select ctid from ${table}
      where $1::text is not null and $2::text is not null and (${holds.join(' or ')}) limit $4 for update))`;
}

/** How a text is found, in texts and within JSON. */
export interface Patterns {
  text: string;
  json: string;
}

/** The words of a text, also where a line ends between two of them. */
const wordsOf = (text: string): string =>
  text
    .split(/\s+/)
    .map((word) => word.replace(/[.*+?^${}()|[\]\\]/g, String.raw`\$&`))
    .join(String.raw`\s+`);
const escaped = (text: string): string => JSON.stringify(text).slice(1, -1);

/** An address by itself, and not as a part of a longer one. */
export function patternsOfAddress(email: string): Patterns {
  const text = String.raw`(?<![[:alnum:]._+-])${wordsOf(email)}(?![[:alnum:]-])(?!\.[[:alnum:]])`;
  return { text, json: text };
}

/**
 * A name by itself, and not as a part of another word. One of a single word may be a word of the language, too, and
 * is found only where nothing else stands.
 */
export function patternsOfName(name: string): Patterns {
  const alone = (words: string) => String.raw`(?<![[:alnum:]])${words}(?![[:alnum:]])`;
  const json = wordsOf(escaped(name));
  return /\s/.test(name.trim())
    ? { text: alone(wordsOf(name)), json: alone(json) }
    : { text: `^${wordsOf(name)}$`, json: `(?<=")${json}(?=")` };
}

/** Signs that are written otherwise in HTML. */
export const inHtml = (text: string): string =>
  text
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;')
    .replaceAll("'", '&#39;');
