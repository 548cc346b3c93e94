import { Readable } from 'node:stream';
import { ZipFile } from 'yazl';
import type { Me } from '../../contract/session.ts';
import { BOOKINGS_CALENDAR, bookingComponent } from '../../core/icalendar/bookings.ts';
import { plainLine } from '../../core/icalendar/text.ts';
import { readAttachment } from '../attachments/index.ts';
import type { Database } from '../db/transaction.ts';
import { PARTS } from './parts.ts';
import { readDates, readFiles, readPart } from './queries.ts';

/** A list of JSON, written as it is read. */
async function* listOf(parts: AsyncIterable<readonly string[]>): AsyncGenerator<string> {
  let isFirst = true;
  yield '[';
  for await (const rows of parts) {
    yield `${isFirst ? '' : ','}\n${rows.join(',\n')}`;
    isFirst = false;
  }
  yield '\n]\n';
}

/** A calendar (RFC 5545) of every date that stands in somebody's, one VEVENT each. */
async function* calendarOf(db: Database, personId: number, now: number): AsyncGenerator<string> {
  yield BOOKINGS_CALENDAR.first;
  for await (const dates of readDates(db, personId))
    yield dates
      .map(({ recurrence, status, id: _id, ...date }) =>
        bookingComponent(
          {
            ...date,
            recurrenceId: recurrence,
            holder: null,
            status: status === 'cancelled' ? 'CANCELLED' : 'CONFIRMED',
          },
          now,
        ),
      )
      .join('');
  yield BOOKINGS_CALENDAR.last;
}

/** A name under which every system keeps a file, within a folder of its own. */
const safe = (name: string): string =>
  plainLine(name)
    .replace(/[\\/:*?"<>|]/g, '_')
    .replace(/^\.+/, '_') || 'file';

const ABOUT = (name: string, at: string) => `All that Marmot keeps of ${name}, as of ${at} (UTC).

data/      what is kept, a list of JSON each, by where it stands; times are UTC
calendar.ics   every date in your calendar (iCalendar, RFC 5545)
files/     what you put to meetings, and what others put to yours, by the number of the meeting

Passwords, keys and links are left out: they are secrets, and of no use elsewhere.
`;

/**
 * All that is kept of somebody as an archive (ZIP), written while it is read: each part as it is when its turn comes.
 * What cannot be read ends the stream, so that nobody takes a part of it for the whole.
 * @param now epoch milliseconds
 */
export function archiveOf(db: Database, me: Pick<Me, 'id' | 'name'>, now: number): Readable {
  const zip = new ZipFile();
  const mtime = new Date(now);
  const out = zip.outputStream as Readable;
  const add = (path: string, text: () => AsyncIterable<string>) =>
    zip.addReadStreamLazy(path, { mtime }, (give) => {
      give(null, Readable.from(text()));
    });
  zip.on('error', (error: Error) => out.destroy(error));
  zip.addBuffer(Buffer.from(ABOUT(me.name, mtime.toISOString().slice(0, 16))), 'READ ME.txt', {
    mtime,
  });
  for (const part of PARTS) add(`data/${part.table}.json`, () => listOf(readPart(db, part, me.id)));
  add('calendar.ics', () => calendarOf(db, me.id, now));
  readFiles(db, me.id)
    .then((files) => {
      for (const { id, eventId, name } of files)
        zip.addReadStreamLazy(
          `files/${eventId}/${id.slice(0, 8)} ${safe(name)}`,
          { mtime, compress: false },
          (give) => {
            readAttachment(db, eventId, id).then(
              // What was taken away meanwhile is an empty file.
              (file) => give(null, Readable.from([file?.content ?? Buffer.alloc(0)])),
              (error: unknown) => give(error, Readable.from([])),
            );
          },
        );
      zip.end();
    })
    .catch((error: unknown) => out.destroy(error as Error));
  return out;
}
