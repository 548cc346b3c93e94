import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

/** What the independent parser found in an event of a calendar; instants as ISO 8601 in UTC. */
export interface ReadEvent {
  uid: string;
  sequence: number;
  stamp: string;
  start: string;
  end: string;
  occurrence: string | null;
  rule: string | null;
  except: string[];
  summary: string;
  location: string | null;
  description: string | null;
  status: string;
  transp: string;
  class: string;
  organizer: string;
  attendees: ({ uri: string } & Record<string, string>)[];
}

export interface ReadCalendar {
  error?: string;
  method: string;
  events: ReadEvent[];
  zones: string[];
}

const script = path.join(path.dirname(fileURLToPath(import.meta.url)), 'readCalendars.py');

/**
 * Reads calendars with Debian's python3-icalendar, all of them in one run.
 * @throws Error when the parser itself cannot be run
 */
export function readCalendars(texts: readonly string[]): ReadCalendar[] {
  const run = spawnSync('/usr/bin/python3', [script], {
    input: JSON.stringify(texts),
    encoding: 'utf8',
    maxBuffer: 256 * 1024 * 1024,
  });
  if (run.status !== 0) throw new Error(`the calendars were not read: ${run.stderr}`);
  return JSON.parse(run.stdout) as ReadCalendar[];
}

/** Everything wrong with calendars as they stand on the wire, in sentences. */
export function faultsOf(texts: readonly string[]): string[] {
  const shapes = texts.flatMap((text, k) => {
    const lines = text.split('\r\n');
    const faults = [
      !text.endsWith('END:VCALENDAR\r\n') && 'does not end with END:VCALENDAR and CRLF',
      /[^\r]\n/.test(text) && 'has a line feed without a carriage return',
      // eslint-disable-next-line no-control-regex -- they are what is looked for
      /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f]/.test(text) && 'holds control characters',
      lines.some((line) => Buffer.byteLength(line) > 75) && 'has a line of over 75 octets',
    ].filter((one) => one !== false);
    return faults.map((fault) => `calendar ${k} ${fault}`);
  });
  const unread = readCalendars(texts).flatMap((one, k) =>
    one.error ? [`calendar ${k} is not read: ${one.error}\n${texts[k]}`] : [],
  );
  return [...shapes, ...unread];
}
