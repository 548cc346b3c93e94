/*
 * What costs a reader far more than its length says, or says nothing at all: letters, calendars, lists, files.
 */

const many = (count: number, text: string) => text.repeat(count);
const CRLF = '\r\n';

const letter = (headers: readonly string[], body: string) =>
  Buffer.from(['From: Jon <jon@harbour.example>', ...headers, '', body].join(CRLF));

const calendarLetter = (lines: readonly string[]) =>
  letter(
    ['Content-Type: text/calendar; charset=utf-8; method=REQUEST'],
    ['BEGIN:VCALENDAR', 'VERSION:2.0', 'METHOD:REQUEST', ...lines, 'END:VCALENDAR', ''].join(CRLF),
  );

const event = (uid: string, ...lines: string[]) => [
  'BEGIN:VEVENT',
  `UID:${uid}`,
  'DTSTAMP:20261101T000000Z',
  'ORGANIZER:mailto:jon@harbour.example',
  'ATTENDEE:mailto:leila.haddad@ternrock.example',
  'DTSTART;TZID=Own:20261201T100000',
  'DTEND;TZID=Own:20261201T110000',
  ...lines,
  'END:VEVENT',
];

const zone = (rule: string, count = 1) => [
  'BEGIN:VTIMEZONE',
  'TZID:Own',
  ...Array.from({ length: count }, (_, k) => [
    'BEGIN:STANDARD',
    `DTSTART:19700101T00${String(k % 60).padStart(2, '0')}00`,
    'TZOFFSETFROM:+0100',
    `TZOFFSETTO:+0${(k % 8) + 1}00`,
    `RRULE:${rule}`,
    'END:STANDARD',
  ]).flat(),
  'END:VTIMEZONE',
];

/** Letters, each by what is wrong with it. */
export const LETTERS: Record<string, (k: number) => Buffer> = {
  'a clock of seconds': (k) => calendarLetter([...zone('FREQ=SECONDLY'), ...event(`s${k}`)]),
  'a clock of hours': (k) => calendarLetter([...zone('FREQ=HOURLY'), ...event(`h${k}`)]),
  '300 clocks': (k) =>
    calendarLetter([...zone('FREQ=YEARLY', 300), ...event(`z${k}`, 'RRULE:FREQ=DAILY')]),
  'a report of line breaks': () =>
    letter(
      ['Content-Type: multipart/report; report-type=delivery-status; boundary=x'],
      [
        '--x',
        'Content-Type: message/delivery-status',
        '',
        `Diagnostic-Code:${many(30_000, CRLF)}`,
        '--x--',
      ].join(CRLF),
    ),
  'reports in headers': () =>
    letter(
      [`Content-Type: ${many(4_000, 'multipart/report; ')}`, `Subject: ${many(50_000, 'a ')}`],
      'x',
    ),
  'tiny parts': () =>
    letter(['Content-Type: multipart/mixed; boundary=x'], many(200_000, `--x${CRLF}${CRLF}`)),
  'parts in parts': () =>
    letter(
      ['Content-Type: multipart/mixed; boundary=b0'],
      Array.from(
        { length: 400 },
        (_, k) => `--b${k}${CRLF}Content-Type: multipart/mixed; boundary=b${k + 1}${CRLF}`,
      ).join(CRLF),
    ),
  'folded lines': (k) =>
    calendarLetter(event(`f${k}`, `DESCRIPTION:${many(200_000, `a${CRLF} `)}`)),
  parameters: (k) =>
    calendarLetter(event(`p${k}`, `ATTENDEE${many(100_000, ';A=b')}:mailto:x@y.example`)),
  'dates left out': (k) =>
    calendarLetter(
      event(
        `e${k}`,
        'RRULE:FREQ=DAILY',
        ...Array.from(
          { length: 150 },
          () => `EXDATE:${many(499, '20261201T100000Z,')}20261201T100000Z`,
        ),
      ),
    ),
  'nested parts': () => calendarLetter(Array.from({ length: 5_000 }, () => 'BEGIN:VEVENT')),
  'nothing that is mail': () => Buffer.alloc(500_000, 0),
  brackets: () =>
    letter(
      [`To: ${many(30_000, '‹ ')}`, `Subject: ${many(20_000, '=?utf-8?q?=')}`],
      many(100_000, '> '),
    ),
  'an entity in words': () => letter(['Content-Type: text/html'], many(150_000, '<a href="&')),
};

/** Lists of addresses that somebody pastes. */
export const LISTS = [
  many(9_999, '‹ '),
  many(9_999, '< '),
  many(9_999, '" '),
  many(4_999, 'a@b '),
  many(6_600, 'a@.'),
  `<${many(19_990, ' ')}<`,
];

/** Cells of opening hours in a file of places. */
export const OPENING_HOURS = [
  many(1_999, ' '),
  `Mon${many(1_990, ' ')}`,
  `Mon${many(990, ' -')}`,
  many(490, 'Mon '),
  `Mon 8${many(650, ' - ')}`,
  many(600, 'and'),
];

/** Files by their names: what is inside is nothing of what they say, or costs to look into. */
export const FILES: Record<string, Buffer> = {
  'a.png': Buffer.concat([Buffer.from('89504e470d0a1a0a', 'hex'), Buffer.alloc(900_000, 0xff)]),
  'b.docx': Buffer.concat([Buffer.from('PK\u0003\u0004'), Buffer.alloc(1_000_000, 0x50)]),
  'c.zip': Buffer.from(many(100_000, 'PK\u0003\u0004')),
  'd.pdf': Buffer.from(`%PDF-1.7\n${many(200_000, '<<')}`),
  'e.csv': Buffer.from(many(300_000, '"')),
  'f.jpg': Buffer.concat([Buffer.from('ffd8ffe1ffff', 'hex'), Buffer.alloc(900_000, 0xff)]),
  'g.ics': Buffer.from(many(80_000, 'BEGIN:VEVENT\r\n')),
};
