import ICAL from 'ical.js';

/** RFC 5545 section 3.1: lines are at most this long, the line break not counted. */
const LINE_OCTETS = 75;
/** Nobody's meeting needs more; a larger text is not looked at. */
const MOST_CHARACTERS = 2 * 1024 * 1024;
/** Unfolded lines: half a year of busy times by the quarter hour, each in a line of its own, has 17,500. */
const MOST_LINES = 25_000;
/** VCALENDAR, VEVENT, VALARM, and one more for what others think of. */
const MOST_DEPTH = 4;
/** Parameters of one property; an attendee has about ten. */
const MOST_PARAMETERS = 50;

// eslint-disable-next-line no-control-regex -- they are what is looked for
const CONTROL = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f]/g;

/**
 * Control characters have no place in iCalendar text (RFC 5545 section 3.1, CONTROL); of those that
 * people type, line breaks and tabs stay.
 */
export const plainCharacters = (text: string): string =>
  text.replace(/\r\n?/g, '\n').replace(CONTROL, '');

/** A name or title: plain characters on a single line. */
export const plainLine = (text: string): string =>
  plainCharacters(text)
    .replace(/[\n\t]+/g, ' ')
    .trim();

/** The text of a calendar: lines folded at 75 octets, each ended by CRLF, the last one too. */
export function calendarText(calendar: ICAL.Component): string {
  const unfolded = calendar.toString().replace(/\r\n[ \t]/g, '');
  return unfolded
    .split('\r\n')
    .filter((line) => line !== '')
    .map((line) => `${fold(line)}\r\n`)
    .join('');
}

/** Breaks a line between characters, never inside one; what follows begins with a space. */
function fold(line: string): string {
  if (octets(line) <= LINE_OCTETS) return line;
  const parts: string[] = [];
  let part = '';
  let length = 0;
  for (const character of line) {
    const size = octets(character);
    if (length + size > LINE_OCTETS) {
      parts.push(part);
      part = ' ';
      length = 1;
    }
    part += character;
    length += size;
  }
  return [...parts, part].join('\r\n');
}

const encoder = new TextEncoder();
const octets = (text: string): number => encoder.encode(text).length;

/**
 * Reads iCalendar text, however it came: with a byte order mark, NULs or bare line feeds in it.
 * @returns the calendars in it, usually one
 * @throws Error with a sentence when it is none, or more than is looked at
 */
export function readCalendars(text: string): ICAL.Component[] {
  if (text.length > MOST_CHARACTERS) throw new Error('The calendar is larger than 2 MB.');
  const clean = unfolded(text.replace(/^\uFEFF/, '').replaceAll('\0', ''));
  refuseUnbounded(clean);
  let parsed: unknown[];
  try {
    parsed = ICAL.parse(clean) as unknown[];
  } catch {
    throw new Error('This is no iCalendar text.');
  }
  const calendars = (Array.isArray(parsed[0]) ? parsed : [parsed]) as unknown[][];
  return calendars.map((one) => new ICAL.Component(one));
}

/** Lines as they were before they were folded (RFC 5545 section 3.1). */
const unfolded = (text: string): string => text.replace(/\r?\n[ \t]/g, '');

/**
 * What costs a parser more than its length: very many lines, parts in parts, parameters.
 * @throws Error with a sentence saying what is too much
 */
function refuseUnbounded(text: string): void {
  let lines = 0;
  let depth = 0;
  for (let at = 0; at < text.length;) {
    const end = text.indexOf('\n', at);
    const line = text.slice(at, end < 0 ? text.length : end);
    at = end < 0 ? text.length : end + 1;
    if (++lines > MOST_LINES) throw new Error(`A calendar may have at most ${MOST_LINES} lines.`);
    if (/^BEGIN:/i.test(line)) depth++;
    else if (/^END:/i.test(line)) depth--;
    else if (parametersOf(line) > MOST_PARAMETERS)
      throw new Error(`A calendar may say at most ${MOST_PARAMETERS} parameters of a thing.`);
    if (depth > MOST_DEPTH)
      throw new Error(`A calendar may have parts in parts at most ${MOST_DEPTH} deep.`);
  }
}

/** How many parameters a line has, and values of theirs: what is parted before its first colon out of quotes. */
function parametersOf(line: string): number {
  let count = 0;
  let isQuoted = false;
  for (let k = 0; k < line.length; k++) {
    const character = line[k];
    if (character === '"') isQuoted = !isQuoted;
    else if (isQuoted) continue;
    else if (character === ':') return count;
    else if (character === ';' || character === ',') count++;
  }
  return count;
}
