import { spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from 'vitest';
import { useServer } from '../../../tests/support/server.ts';
import { readMail, receiveMail } from './receive.ts';

/* Mail of as many shapes as the standards allow and programs send, each with what its reader would expect. */

const server = useServer();
const HOST = 'sunniva@fjordworks.example';
const LEILA = 'leila.haddad@ternrock.example';
const HAL = 'hal.teague@ternrock.example';
const MIKA = 'mika.sandoval@ternrock.example';
const TOMAS = 'tomas.okafor@ternrock.example';
let number = 0;
const fresh = () => `shape-${number++}@fjordworks.example`;

interface Shape {
  from?: string;
  to?: string;
  /** Headers of the mail beside the usual. */
  headers?: string[];
  /** Content-Type of the only part; %m is the method. */
  type?: string;
  method?: string | null;
  /** Lines of the calendar before its events. */
  zones?: string[];
  /** Events, each as its lines; what is usual is there unless a line of that name is given. */
  events?: string[][];
  uid?: string;
  /** Whole mail, in place of all this. */
  raw?: Buffer;
}

/** Lines of an event: the usual ones, but for those that are given, and for those given empty (`LOCATION:`). */
function eventOf(uid: string, given: string[]): string[] {
  const nameOf = (line: string) => /^[A-Z-]+/.exec(line)![0];
  const named = new Set(given.map(nameOf));
  const usual = [
    `UID:${uid}`,
    'SEQUENCE:0',
    'DTSTAMP:20261124T080000Z',
    `ORGANIZER;CN=Sunniva Fjord:mailto:${HOST}`,
    `ATTENDEE;PARTSTAT=NEEDS-ACTION:mailto:${LEILA}`,
    'DTSTART:20270602T080000Z',
    'DTEND:20270602T090000Z',
    'SUMMARY:Quay inspection',
  ].filter((line) => !named.has(nameOf(line)));
  return [
    'BEGIN:VEVENT',
    ...usual,
    ...given.filter((line) => !/^[A-Z-]+:$/.test(line)),
    'END:VEVENT',
  ];
}

function mailOf(shape: Shape): Buffer {
  if (shape.raw) return shape.raw;
  const { from = HOST, to = LEILA, method = 'REQUEST', zones = [], events = [[]] } = shape;
  const uid = shape.uid ?? fresh();
  const calendar = [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Elsewhere//EN',
    ...(method === null ? [] : [`METHOD:${method}`]),
    ...zones,
    ...events.flatMap((lines) => eventOf(uid, lines)),
    'END:VCALENDAR',
  ].join('\r\n');
  return Buffer.from(
    [
      `From: Sunniva Fjord <${from}>`,
      `To: ${to}`,
      'Subject: Quay inspection',
      `Message-ID: <shape${number++}@fjordworks.example>`,
      'MIME-Version: 1.0',
      ...(shape.headers ?? []),
      `Content-Type: ${(shape.type ?? 'text/calendar; charset=utf-8; method=%m').replace('%m', method ?? 'REQUEST')}`,
      '',
      calendar,
    ].join('\r\n'),
  );
}

const hand = async (shape: Shape, to = shape.to ?? LEILA) =>
  receiveMail(server.running.platform, await readMail(mailOf(shape)), to);

/** What stands of a UID: when, how often, who answered what. */
async function standing(uid: string) {
  const rows = await server.sql<{
    uid: string;
    at: string;
    zone: string;
    minutes: number;
    allDay: boolean;
    rule: string | null;
    status: string;
    people: string;
    dates: number;
    title: string;
    dateOf: { at: string } | null;
  }>(
    `select uid, to_char(starts_at, 'YYYY-MM-DD HH24:MI') as at, zone, length_minutes as minutes,
            all_day as "allDay", rule, status, title, date_of as "dateOf",
            (select string_agg(split_part(coalesce(person.email, attendee.email), '.', 1) || ' ' || reply, ', '
                               order by coalesce(person.email, attendee.email))
             from attendee left join person on person.subject_id = person_id
             where event_id = event.id and attendee.role <> 'organizer') as people,
            (select count(*)::int from occurrence where event_id = event.id) as dates
     from event where uid = $1 or date_of ->> 'uid' = $1 order by uid`,
    [uid],
  );
  return rows;
}
const why = async (uid: string) =>
  (
    await server.sql<{ why: string }>(
      `select why from incoming_mail join event on event.id = event_id where uid = $1
       order by received_at desc, incoming_mail.id limit 1`,
      [uid],
    )
  )[0]?.why;

/** A zone that its calendar explains under a name of its own: two hours before UTC, always. */
const explained = (name: string) => [
  'BEGIN:VTIMEZONE',
  `TZID:${name}`,
  'BEGIN:STANDARD',
  'DTSTART:19700101T000000',
  'TZOFFSETFROM:+0200',
  'TZOFFSETTO:+0200',
  'END:STANDARD',
  'END:VTIMEZONE',
];

const at = (start: string, end?: string) => [
  `DTSTART${start}`,
  ...(end === undefined ? [] : [`DTEND${end}`]),
];

describe('when something is', () => {
  /** What the lines of one event make of it: start, zone, minutes. */
  const times: [
    string,
    string[],
    { at: string; zone: string; minutes?: number; allDay?: boolean },
    string[]?,
  ][] = [
    [
      'in UTC',
      at(':20270602T080000Z', ':20270602T093000Z'),
      { at: '2027-06-02 08:00', zone: 'UTC', minutes: 90 },
    ],
    [
      'by the name of the zone database, not explained',
      at(';TZID=Europe/Oslo:20270602T100000', ';TZID=Europe/Oslo:20270602T110000'),
      { at: '2027-06-02 10:00', zone: 'Europe/Oslo', minutes: 60 },
    ],
    [
      'by the name that Windows has for it',
      at(
        ';TZID=W. Europe Standard Time:20270602T100000',
        ';TZID=W. Europe Standard Time:20270602T110000',
      ),
      { at: '2027-06-02 10:00', zone: 'Europe/Berlin', minutes: 60 },
    ],
    [
      'by Windows’ name of half an island',
      at(
        ';TZID=Tasmania Standard Time:20270602T100000',
        ';TZID=Tasmania Standard Time:20270602T110000',
      ),
      { at: '2027-06-02 10:00', zone: 'Australia/Hobart', minutes: 60 },
    ],
    [
      'by a name behind what its program puts before it',
      at(
        ';TZID=/fjord.example/20260101_1/America/Argentina/Buenos_Aires:20270602T100000',
        ';TZID=/fjord.example/20260101_1/America/Argentina/Buenos_Aires:20270602T103000',
      ),
      { at: '2027-06-02 10:00', zone: 'America/Argentina/Buenos_Aires', minutes: 30 },
    ],
    [
      'by an old name',
      at(';TZID=Asia/Calcutta:20270602T100000', ';TZID=Asia/Calcutta:20270602T110000'),
      { at: '2027-06-02 10:00', zone: 'Asia/Calcutta', minutes: 60 },
    ],
    [
      'by a zone that only the calendar explains',
      at(';TZID=Quay Time:20270602T100000', ';TZID=Quay Time:20270602T110000'),
      { at: '2027-06-02 08:00', zone: 'UTC', minutes: 60 },
      explained('Quay Time'),
    ],
    [
      'by no zone: the reader’s',
      at(':20270602T100000', ':20270602T110000'),
      { at: '2027-06-02 10:00', zone: 'Europe/Oslo', minutes: 60 },
    ],
    [
      'a whole day: the reader’s',
      at(';VALUE=DATE:20270602', ';VALUE=DATE:20270603'),
      { at: '2027-06-02 00:00', zone: 'Europe/Oslo', minutes: 1440, allDay: true },
    ],
    [
      'two whole days',
      at(';VALUE=DATE:20270602', ';VALUE=DATE:20270604'),
      { at: '2027-06-02 00:00', zone: 'Europe/Oslo', minutes: 2880, allDay: true },
    ],
    [
      'a whole day without an end',
      [...at(';VALUE=DATE:20270602'), 'DTEND:'],
      { at: '2027-06-02 00:00', zone: 'Europe/Oslo', minutes: 1440, allDay: true },
    ],
    [
      'with a length in place of an end',
      [...at(':20270602T080000Z'), 'DTEND:', 'DURATION:PT45M'],
      { at: '2027-06-02 08:00', zone: 'UTC', minutes: 45 },
    ],
    [
      'a length of days',
      [...at(':20270602T080000Z'), 'DTEND:', 'DURATION:P1DT2H'],
      { at: '2027-06-02 08:00', zone: 'UTC', minutes: 1560 },
    ],
    [
      'whole days by length',
      [...at(';VALUE=DATE:20270602'), 'DTEND:', 'DURATION:P3D'],
      { at: '2027-06-02 00:00', zone: 'Europe/Oslo', minutes: 4320, allDay: true },
    ],
    [
      'a moment',
      [...at(':20270602T080000Z'), 'DTEND:'],
      { at: '2027-06-02 08:00', zone: 'UTC', minutes: 1 },
    ],
    [
      'begun in one zone and ended in another',
      at(';TZID=Europe/Oslo:20270602T100000', ';TZID=Asia/Tokyo:20270602T180000'),
      { at: '2027-06-02 10:00', zone: 'Europe/Oslo', minutes: 60 },
    ],
    [
      'with seconds',
      at(':20270602T080030Z', ':20270602T090030Z'),
      { at: '2027-06-02 08:00', zone: 'UTC', minutes: 60 },
    ],
    [
      'by a zone in quotes',
      at(';TZID="Europe/Oslo":20270602T100000', ';TZID="Europe/Oslo":20270602T110000'),
      { at: '2027-06-02 10:00', zone: 'Europe/Oslo', minutes: 60 },
    ],
    [
      'over a change of clocks',
      at(';TZID=Europe/Oslo:20270328T013000', ';TZID=Europe/Oslo:20270328T033000'),
      { at: '2027-03-28 01:30', zone: 'Europe/Oslo', minutes: 60 },
    ],
    [
      'over midnight',
      at(';TZID=Europe/Oslo:20270602T230000', ';TZID=Europe/Oslo:20270603T010000'),
      { at: '2027-06-02 23:00', zone: 'Europe/Oslo', minutes: 120 },
    ],
  ];
  it.each(times)('%s', async (_, lines, stands, zones = []) => {
    const uid = fresh();
    expect(await hand({ uid, events: [lines], zones })).toEqual({ state: 'counted', reason: '' });
    expect(await standing(uid)).toMatchObject([stands]);
  });

  it('says so at the meeting where it says no zone', async () => {
    const uid = fresh();
    await hand({ uid, events: [at(':20270602T100000', ':20270602T110000')] });
    expect(await why(uid)).toContain(
      'It says no time zone; its times were read by the clock of Oslo.',
    );
  });

  it('stays by the clock of whoever it came to first, for others of here', async () => {
    const uid = fresh();
    const events = [
      [
        ...at(':20270602T100000', ':20270602T110000'),
        `ATTENDEE:mailto:${LEILA}`,
        `ATTENDEE:mailto:${MIKA}`,
      ],
    ];
    await hand({ uid, events });
    const [zone] = await server.sql<{ zone: string }>('select zone from person where email = $1', [
      MIKA,
    ]);
    expect(zone!.zone).not.toBe('Europe/Oslo');
    expect(await hand({ uid, events, to: MIKA })).toMatchObject({ state: 'counted' });
    expect(await standing(uid)).toMatchObject([{ at: '2027-06-02 10:00', zone: 'Europe/Oslo' }]);
  });

  it('is asked where its zone is a name that nobody knows, and taken once somebody says', async () => {
    const uid = fresh();
    const events = [
      at(';TZID=Harbour Clock:20270602T100000', ';TZID=Harbour Clock:20270602T110000'),
    ];
    expect(await hand({ uid, events })).toMatchObject({
      state: 'aside',
      reason: expect.stringContaining('“Harbour Clock”') as string,
    });
    expect(await standing(uid)).toEqual([]);
    const leila = await server.as('leila.haddad');
    const { body } = await leila.get<{
      mails: { id: string; reason: string; wantsClock: boolean }[];
    }>('/api/incoming');
    const mail = body.mails.find((one) => one.reason.includes('Harbour Clock'))!;
    expect(mail.wantsClock).toBe(true);
    const count = (how: object) => leila.post(`/api/incoming/${mail.id}/count`, how);
    expect((await count({})).status).toBe(409);
    expect((await count({ zone: 'Mars/Olympus' })).status).toBe(400);
    expect((await count({ zone: 'Asia/Tokyo' })).status).toBe(200);
    expect(await standing(uid)).toMatchObject([{ at: '2027-06-02 10:00', zone: 'Asia/Tokyo' }]);
  });
});

describe('how often it is', () => {
  const weekly = at(';TZID=Europe/Oslo:20270602T100000', ';TZID=Europe/Oslo:20270602T110000');
  const rules: [string, string[], object][] = [
    ['weekly, counted', [...weekly, 'RRULE:FREQ=WEEKLY;COUNT=4'], { dates: 4 }],
    [
      'without some of its dates',
      [
        ...weekly,
        'RRULE:FREQ=WEEKLY;COUNT=4',
        'EXDATE;TZID=Europe/Oslo:20270609T100000,20270616T100000',
      ],
      { dates: 2 },
    ],
    [
      'without dates named in UTC',
      [...weekly, 'RRULE:FREQ=WEEKLY;COUNT=4', 'EXDATE:20270609T080000Z'],
      { dates: 3 },
    ],
    ['until a day', [...weekly, 'RRULE:FREQ=WEEKLY;UNTIL=20270616T080000Z'], { dates: 3 }],
    [
      'on whole days',
      [...at(';VALUE=DATE:20270602', ';VALUE=DATE:20270603'), 'RRULE:FREQ=WEEKLY;COUNT=3'],
      { dates: 3, allDay: true },
    ],
    [
      'by a name of Windows',
      [
        ...at(
          ';TZID=Tokyo Standard Time:20270602T100000',
          ';TZID=Tokyo Standard Time:20270602T110000',
        ),
        'RRULE:FREQ=DAILY;COUNT=5',
      ],
      { dates: 5, zone: 'Asia/Tokyo' },
    ],
    [
      'by no zone',
      [...at(':20270602T100000', ':20270602T110000'), 'RRULE:FREQ=DAILY;COUNT=5'],
      { dates: 5, zone: 'Europe/Oslo' },
    ],
    [
      'since the last century',
      [
        ...at(';TZID=Europe/Oslo:19991229T100000', ';TZID=Europe/Oslo:19991229T110000'),
        'RRULE:FREQ=WEEKLY',
      ],
      { at: '2000-01-05 10:00', rule: 'FREQ=WEEKLY' },
    ],
    [
      'since the last century, every second week',
      [
        ...at(';TZID=Europe/Oslo:19991222T100000', ';TZID=Europe/Oslo:19991222T110000'),
        'RRULE:FREQ=WEEKLY;INTERVAL=2;COUNT=1000',
      ],
      { at: '2000-01-05 10:00', rule: 'FREQ=WEEKLY;INTERVAL=2;COUNT=999' },
    ],
    [
      'each year since 1970',
      [...at(';VALUE=DATE:19700601', ';VALUE=DATE:19700602'), 'RRULE:FREQ=YEARLY'],
      { at: '2000-06-01 00:00' },
    ],
    [
      'each leap day since 1904',
      [...at(';VALUE=DATE:19040229', ';VALUE=DATE:19040301'), 'RRULE:FREQ=YEARLY'],
      { at: '2000-02-29 00:00' },
    ],
  ];
  it.each(rules)('%s', async (_, lines, stands) => {
    const uid = fresh();
    expect(await hand({ uid, events: [lines] })).toEqual({ state: 'counted', reason: '' });
    expect(await standing(uid)).toMatchObject([stands]);
  });

  it('says which single dates are not kept', async () => {
    const uid = fresh();
    const rdates = 'RDATE;TZID=Europe/Oslo:20270604T100000,20270605T120000';
    expect(
      (await hand({ uid, events: [[...weekly, 'RRULE:FREQ=WEEKLY;COUNT=2', rdates]] })).state,
    ).toBe('counted');
    expect(await standing(uid)).toMatchObject([{ dates: 2 }]);
    expect(await why(uid)).toContain(
      'single dates besides, which are not kept here: Fri 4 Jun 10:00, Sat 5 Jun 12:00 (Oslo time).',
    );
    const alone = fresh();
    await hand({ uid: alone, events: [[...weekly, 'RDATE;VALUE=PERIOD:20270604T080000Z/PT1H']] });
    expect(await standing(alone)).toMatchObject([{ rule: null, dates: 1 }]);
    expect(await why(alone)).toContain('Fri 4 Jun 10:00');
  });

  it('says that a first date outside of its rule is not kept', async () => {
    const uid = fresh();
    await hand({ uid, events: [[...weekly, 'RRULE:FREQ=WEEKLY;BYDAY=FR;COUNT=3']] });
    expect(await standing(uid)).toMatchObject([{ at: '2027-06-04 10:00', dates: 3 }]);
    expect(await why(uid)).toContain('Its first date, Wed 2 Jun 10:00,');
  });

  it('over before the years that are kept is refused in a sentence', async () => {
    const uid = fresh();
    const old = at(';TZID=Europe/Oslo:19950601T100000', ';TZID=Europe/Oslo:19950601T110000');
    expect(await hand({ uid, events: [[...old, 'RRULE:FREQ=WEEKLY;COUNT=3']] })).toMatchObject({
      state: 'aside',
      reason: 'It happened before the year 2000, and never after.',
    });
  });

  it('other times for one date and all after it: that date is kept, and said to be all', async () => {
    const uid = fresh();
    const series = [...weekly, 'RRULE:FREQ=WEEKLY;COUNT=4'];
    const later = [
      'RECURRENCE-ID;RANGE=THISANDFUTURE;TZID=Europe/Oslo:20270616T100000',
      ...at(';TZID=Europe/Oslo:20270616T130000', ';TZID=Europe/Oslo:20270616T140000'),
    ];
    expect((await hand({ uid, events: [series, later] })).state).toBe('counted');
    const dates = await server.sql<{ at: string }>(
      `select to_char(occurrence.starts_at at time zone 'Europe/Oslo', 'DD HH24') as at from occurrence
       join event on event.id = event_id where uid = $1 order by occurrence.starts_at`,
      [uid],
    );
    expect(dates.map((one) => one.at)).toEqual(['02 10', '09 10', '16 13', '23 10']);
    expect(await why(uid)).toContain('only that date is kept so');
  });

  it('ended from one date on (RANGE) is ended', async () => {
    const uid = fresh();
    await hand({ uid, events: [[...weekly, 'RRULE:FREQ=WEEKLY;COUNT=5']] });
    const end = [
      'RECURRENCE-ID;RANGE=THISANDFUTURE;TZID=Europe/Oslo:20270616T100000',
      'SEQUENCE:1',
      'DTSTAMP:20261124T080500Z',
      'DTSTART:',
      'DTEND:',
    ];
    expect((await hand({ uid, method: 'CANCEL', events: [end] })).state).toBe('counted');
    expect(await standing(uid)).toMatchObject([{ dates: 2, status: 'confirmed' }]);
  });
});

describe('a single date of a series that is not known here', () => {
  const date = (day: string, more: string[] = []) => [
    `RECURRENCE-ID;TZID=Europe/Oslo:202706${day}T100000`,
    ...at(`;TZID=Europe/Oslo:202706${day}T110000`, `;TZID=Europe/Oslo:202706${day}T120000`),
    ...more,
  ];
  it('is a meeting by itself, answered by the name it has in its series', async () => {
    const uid = fresh();
    expect(await hand({ uid, events: [date('09')] })).toEqual({ state: 'counted', reason: '' });
    const [one] = await standing(uid);
    expect(one).toMatchObject({
      at: '2027-06-09 11:00',
      dates: 1,
      dateOf: { at: '2027-06-09T10:00' },
    });
    const [{ id }] = (await server.sql<{ id: string }>('select id from event where uid = $1', [
      one!.uid,
    ])) as [{ id: string }];
    const leila = await server.as('leila.haddad');
    expect((await leila.post(`/api/invitations/${id}/reply`, { reply: 'accepted' })).status).toBe(
      200,
    );
    const [{ calendar }] = (await server.sql<{ calendar: string }>(
      'select calendar from mail where event_id = $1',
      [id],
    )) as [{ calendar: string }];
    expect(calendar).toContain(`UID:${uid}\r\n`);
    expect(calendar).toContain('RECURRENCE-ID;TZID=Europe/Oslo:20270609T100000');
  });

  it('is moved and called off as such, and goes into its series with its answer once that comes', async () => {
    const uid = fresh();
    await hand({ uid, events: [date('09'), date('16')] });
    expect(await standing(uid)).toHaveLength(2);
    await hand({
      uid,
      events: [date('16', ['SEQUENCE:1', 'DTSTAMP:20261124T080100Z', 'SUMMARY:Another quay'])],
    });
    expect((await standing(uid)).map((one) => one.title)).toEqual([
      'Quay inspection',
      'Another quay',
    ]);
    await hand({
      uid,
      method: 'CANCEL',
      events: [date('09', ['SEQUENCE:2', 'DTSTAMP:20261124T080200Z', 'DTSTART:', 'DTEND:'])],
    });
    expect((await standing(uid)).map((one) => one.status)).toEqual(['cancelled', 'confirmed']);
    const leila = await server.as('leila.haddad');
    const [second] = await server.sql<{ id: string }>(
      `select id from event where date_of ->> 'uid' = $1 and status = 'confirmed'`,
      [uid],
    );
    await leila.post(`/api/invitations/${second!.id}/reply`, { reply: 'declined' });
    const series = [
      ...at(';TZID=Europe/Oslo:20270602T100000', ';TZID=Europe/Oslo:20270602T110000'),
      'RRULE:FREQ=WEEKLY;COUNT=4',
      'SEQUENCE:3',
      'DTSTAMP:20261124T080300Z',
    ];
    expect((await hand({ uid, events: [series] })).state).toBe('counted');
    expect(await standing(uid)).toMatchObject([{ uid, dates: 4, people: 'leila needs-action' }]);
    const answers = await server.sql<{ at: string; reply: string }>(
      `select to_char(recurrence_at, 'MM-DD HH24') as at, occurrence_reply.reply
       from occurrence_reply join event on event.id = event_id where uid = $1`,
      [uid],
    );
    expect(answers).toEqual([{ at: '06-16 10', reply: 'declined' }]);
  });
});

describe('who is asked, and who is not any more', () => {
  it('as many as 1,000: those of here and some of the others are kept', async () => {
    const uid = fresh();
    const crowd = Array.from({ length: 1_000 }, (_, k) => `ATTENDEE:mailto:g${k}@crowd.example`);
    expect((await hand({ uid, events: [[...crowd, `ATTENDEE:mailto:${LEILA}`]] })).state).toBe(
      'counted',
    );
    const [{ count }] = (await server.sql<{ count: number }>(
      'select count(*)::int as count from attendee join event on event.id = event_id where uid = $1',
      [uid],
    )) as [{ count: number }];
    expect(count).toBe(202);
    expect(await why(uid)).toContain('800 of those whom it invites');
  });

  it('by EMAIL where the address is none (RFC 7986)', async () => {
    const uid = fresh();
    const lines = [
      `ATTENDEE;EMAIL=${LEILA}:urn:uuid:0b3e`,
      `ORGANIZER;EMAIL=${HOST}:urn:uuid:77aa`,
    ];
    expect((await hand({ uid, events: [lines] })).state).toBe('counted');
    expect(await standing(uid)).toMatchObject([{ people: 'leila needs-action' }]);
  });

  it('who accepted elsewhere is not asked again', async () => {
    const uid = fresh();
    expect(
      (
        await hand({
          uid,
          events: [[`ATTENDEE;PARTSTAT=ACCEPTED:mailto:${LEILA}`, `ATTENDEE:mailto:${HAL}`]],
        })
      ).state,
    ).toBe('counted');
    expect(await standing(uid)).toMatchObject([{ people: 'hal needs-action, leila accepted' }]);
  });

  it('once for three people: news come once, and whoever is added later is invited', async () => {
    const uid = fresh();
    const three = [LEILA, HAL, TOMAS];
    const events = [three.map((one) => `ATTENDEE:mailto:${one}`)];
    const mail = await readMail(mailOf({ uid, events }));
    for (const to of three)
      expect(await receiveMail(server.running.platform, mail, to)).toEqual({
        state: 'counted',
        reason: '',
      });
    const told = await server.sql<{ kind: string; name: string }>(
      `select what as kind, subject.name from notification join subject on subject.id = person_id
       join event on event.id = notification.event_id where uid = $1 order by name`,
      [uid],
    );
    expect(told.map((one) => one.kind)).toEqual(['invited', 'invited', 'invited']);
    const rows = await server.sql('select recipient from incoming_mail where message_id = $1', [
      mail.messageId,
    ]);
    expect(rows).toHaveLength(3);
  });

  it('what others elsewhere answered is seen, and is no news', async () => {
    const uid = fresh();
    const crowd = (answer: string) => [
      `ATTENDEE:mailto:${LEILA}`,
      `ATTENDEE;PARTSTAT=${answer}:mailto:${'ola@drones.example'}`,
    ];
    await hand({ uid, events: [crowd('NEEDS-ACTION')] });
    const later = ['DTSTAMP:20261124T080500Z', ...crowd('ACCEPTED')];
    expect((await hand({ uid, events: [later] })).state).toBe('counted');
    expect(await standing(uid)).toMatchObject([
      { people: 'leila needs-action, ola@drones accepted' },
    ]);
    const told = await server.sql<{ what: string }>(
      'select what from notification join event on event.id = event_id where uid = $1',
      [uid],
    );
    expect(told).toEqual([{ what: 'invited' }]);
  });

  it('one of them taken out: the meeting stands for all others', async () => {
    const uid = fresh();
    await hand({ uid, events: [[LEILA, HAL, TOMAS].map((one) => `ATTENDEE:mailto:${one}`)] });
    const out = {
      uid,
      method: 'CANCEL',
      to: HAL,
      events: [
        ['SEQUENCE:1', 'DTSTAMP:20261124T080100Z', `ATTENDEE:mailto:${HAL}`, 'STATUS:CANCELLED'],
      ],
    };
    expect((await hand(out)).state).toBe('counted');
    expect(await standing(uid)).toMatchObject([
      { status: 'confirmed', people: 'leila needs-action, tomas needs-action' },
    ]);
    // The same once more, and the first that somebody ever gets.
    expect((await hand(out)).state).toBe('aside');
    await hand({
      ...out,
      to: TOMAS,
      events: [['SEQUENCE:1', 'DTSTAMP:20261124T080200Z', `ATTENDEE:mailto:${TOMAS}`]],
    });
    await hand({
      ...out,
      to: LEILA,
      events: [['SEQUENCE:1', 'DTSTAMP:20261124T080300Z', `ATTENDEE:mailto:${LEILA}`]],
    });
    expect(await standing(uid)).toMatchObject([{ status: 'cancelled' }]);
  });

  it('not asked to one date: the others stand for them, and that date for the others', async () => {
    const uid = fresh();
    const people = [LEILA, HAL].map((one) => `ATTENDEE:mailto:${one}`);
    const series = [
      ...at(';TZID=Europe/Oslo:20270602T100000', ';TZID=Europe/Oslo:20270602T110000'),
      'RRULE:FREQ=WEEKLY;COUNT=3',
      ...people,
    ];
    await hand({ uid, events: [series] });
    const out = [
      'RECURRENCE-ID;TZID=Europe/Oslo:20270609T100000',
      'SEQUENCE:1',
      'DTSTAMP:20261124T080100Z',
      `ATTENDEE:mailto:${HAL}`,
      'DTSTART:',
      'DTEND:',
    ];
    expect((await hand({ uid, method: 'CANCEL', to: HAL, events: [out] })).state).toBe('counted');
    expect(await standing(uid)).toMatchObject([
      { dates: 3, people: 'hal needs-action, leila needs-action' },
    ]);
    const answers = await server.sql<{ reply: string; note: string }>(
      `select occurrence_reply.reply, occurrence_reply.note from occurrence_reply
       join event on event.id = event_id where uid = $1`,
      [uid],
    );
    expect(answers).toEqual([{ reply: 'declined', note: 'Not asked for this date any more.' }]);
  });
});

describe('that it does not happen', () => {
  const off = (more: string[] = []) => ['SEQUENCE:1', 'DTSTAMP:20261124T080100Z', ...more];
  it.each<[string, string[]]>([
    ['as a whole', off()],
    ['without any time', off(['DTSTART:', 'DTEND:'])],
    ['without naming anybody', off(['ATTENDEE:'])],
    ['with the same SEQUENCE', ['DTSTAMP:20261124T080100Z']],
    ['without a title', off(['SUMMARY:'])],
  ])('%s', async (_, lines) => {
    const uid = fresh();
    await hand({ uid });
    expect(await hand({ uid, method: 'CANCEL', events: [lines] })).toEqual({
      state: 'counted',
      reason: '',
    });
    expect(await standing(uid)).toMatchObject([{ status: 'cancelled' }]);
  });

  it('by a REQUEST that says so (STATUS)', async () => {
    const uid = fresh();
    await hand({ uid });
    expect((await hand({ uid, events: [off(['STATUS:CANCELLED'])] })).state).toBe('counted');
    expect(await standing(uid)).toMatchObject([{ status: 'cancelled' }]);
  });

  it('before it is asked to: remembered, and the invitation makes nothing any more', async () => {
    const uid = fresh();
    expect(await hand({ uid, method: 'CANCEL', events: [off()] })).toMatchObject({
      state: 'counted',
      reason: expect.stringContaining('whose invitation has not come') as string,
    });
    expect(await hand({ uid })).toMatchObject({
      state: 'counted',
      reason: 'It was cancelled before it came.',
    });
    expect(await standing(uid)).toEqual([]);
    // What is asked after that is asked.
    expect((await hand({ uid, events: [['SEQUENCE:2', 'DTSTAMP:20261124T080200Z']] })).state).toBe(
      'counted',
    );
    expect(await standing(uid)).toMatchObject([{ status: 'confirmed' }]);
  });

  it('one date of it, before it is asked to', async () => {
    const uid = fresh();
    const gone = off(['RECURRENCE-ID;TZID=Europe/Oslo:20270609T100000', 'DTSTART:', 'DTEND:']);
    expect((await hand({ uid, method: 'CANCEL', events: [gone] })).state).toBe('counted');
    const series = [
      ...at(';TZID=Europe/Oslo:20270602T100000', ';TZID=Europe/Oslo:20270602T110000'),
      'RRULE:FREQ=WEEKLY;COUNT=3',
    ];
    expect((await hand({ uid, events: [series] })).state).toBe('counted');
    expect(await standing(uid)).toMatchObject([{ status: 'confirmed', dates: 2 }]);
  });

  it('by somebody else is put aside, and remembered by nobody', async () => {
    const uid = fresh();
    expect(
      (await hand({ uid, method: 'CANCEL', from: 'thief@else.example', events: [off()] })).state,
    ).toBe('aside');
    expect((await hand({ uid })).state).toBe('counted');
    expect(await standing(uid)).toMatchObject([{ status: 'confirmed' }]);
  });
});

describe('how it comes', () => {
  it.each<[string, Shape]>([
    [
      'with its kind in the header alone',
      { method: null, type: 'text/calendar; charset=utf-8; method=REQUEST' },
    ],
    ['with its kind in small letters', { method: 'request' }],
    ['with a charset in quotes', { type: 'text/calendar; charset="UTF-8"; method="%m"' }],
    ['as application/ics', { type: 'application/ics; name="invite.ics"' }],
    ['as a file without a type', { type: 'application/octet-stream; name="invite.ics"' }],
    ['in a mail that a program sent', { headers: ['Auto-Submitted: auto-generated'] }],
    ['through a list', { headers: ['Precedence: list', 'List-Id: <quay.fjordworks.example>'] }],
    ['with a reply address of its own', { headers: ['Reply-To: office@fjordworks.example'] }],
  ])('%s', async (_, shape) => {
    const uid = fresh();
    expect(await hand({ uid, ...shape })).toEqual({ state: 'counted', reason: '' });
    expect(await standing(uid)).toMatchObject([{ status: 'confirmed', title: 'Quay inspection' }]);
  });

  it('with the ways into it from elsewhere (RFC 7986), which stand below what it says', async () => {
    const uid = fresh();
    const ways = [
      'CONFERENCE;VALUE=URI;FEATURE=VIDEO;LABEL=Join from anywhere:https://meet.fjordworks.example/quay',
      'CONFERENCE;VALUE=URI;FEATURE=PHONE:tel:+4755000000',
      'CONFERENCE;VALUE=URI:javascript:alert(1)',
    ];
    const lines = [
      'DESCRIPTION:Bring boots',
      'COLOR:teal',
      'IMAGE;VALUE=URI:https://x.example/a.png',
    ];
    expect((await hand({ uid, events: [[...lines, ...ways]] })).state).toBe('counted');
    const [row] = await server.sql<{ description: string }>(
      'select description from event where uid = $1',
      [uid],
    );
    expect(row!.description).toContain('<p>Bring boots</p>');
    expect(row!.description).toContain('Join from anywhere: https://meet.fjordworks.example/quay');
    expect(row!.description).toContain('To take part from elsewhere: tel:+4755000000');
    expect(row!.description).not.toMatch(/javascript|a\.png/);
  });

  it('two meetings in one letter are both taken', async () => {
    const [one, other] = [fresh(), fresh()];
    const events = [[`UID:${one}`], [`UID:${other}`, 'SUMMARY:Crane test']];
    expect((await hand({ events })).state).toBe('counted');
    expect(await standing(one)).toMatchObject([{ title: 'Quay inspection' }]);
    expect(await standing(other)).toMatchObject([{ title: 'Crane test' }]);
  });

  it('in another charset, base64 or quoted is read', async () => {
    const calendar = (uid: string) =>
      [
        'BEGIN:VCALENDAR',
        'VERSION:2.0',
        'METHOD:REQUEST',
        ...eventOf(uid, ['SUMMARY:Kai-Prüfung']),
        'END:VCALENDAR',
        '',
      ].join('\r\n');
    const head = (encoding: string, charset: string) =>
      [
        `From: <${HOST}>`,
        `Message-ID: <c${number++}@x.example>`,
        'MIME-Version: 1.0',
        `Content-Transfer-Encoding: ${encoding}`,
        `Content-Type: text/calendar; charset=${charset}; method=REQUEST`,
        '',
        '',
      ].join('\r\n');
    const shapes: [string, Buffer][] = [];
    const base64 = fresh();
    shapes.push([
      base64,
      Buffer.from(
        head('base64', 'utf-8') +
          Buffer.from(calendar(base64)).toString('base64').replace(/.{76}/g, '$&\r\n'),
      ),
    ]);
    const latin = fresh();
    shapes.push([
      latin,
      Buffer.concat([
        Buffer.from(head('8bit', 'iso-8859-1')),
        Buffer.from(calendar(latin), 'latin1'),
      ]),
    ]);
    const quoted = fresh();
    shapes.push([
      quoted,
      Buffer.from(
        head('quoted-printable', 'utf-8') +
          calendar(quoted).replaceAll('=', '=3D').replace('ü', '=C3=BC'),
      ),
    ]);
    for (const [uid, raw] of shapes) {
      expect((await hand({ raw })).state).toBe('counted');
      expect(await standing(uid)).toMatchObject([{ title: 'Kai-Prüfung' }]);
    }
  });

  it('what is published is shown, taken by a click, and followed from then on', async () => {
    const uid = fresh();
    const shape = { uid, method: 'PUBLISH', events: [['ATTENDEE:']] };
    expect(await hand(shape)).toMatchObject({
      state: 'aside',
      reason: expect.stringContaining('asks for no answer') as string,
    });
    expect(await standing(uid)).toEqual([]);
    const leila = await server.as('leila.haddad');
    const { body } = await leila.get<{
      mails: { id: string; reason: string; canCount: boolean }[];
    }>('/api/incoming');
    const mail = body.mails.find((one) => one.reason.includes('asks for no answer'))!;
    expect(mail.canCount).toBe(true);
    expect((await leila.post(`/api/incoming/${mail.id}/count`, {})).status).toBe(200);
    expect(await standing(uid)).toMatchObject([{ people: 'leila accepted' }]);
    const moved = ['ATTENDEE:', 'SEQUENCE:1', 'DTSTAMP:20261124T080100Z', 'SUMMARY:Quay open day'];
    expect((await hand({ ...shape, events: [moved] })).state).toBe('counted');
    expect(await standing(uid)).toMatchObject([
      { title: 'Quay open day', people: 'leila accepted' },
    ]);
  });

  it('that another time is not taken is said to whoever asked for it (DECLINECOUNTER)', async () => {
    const uid = fresh();
    await hand({ uid });
    expect(await hand({ uid, method: 'DECLINECOUNTER' })).toEqual({
      state: 'aside',
      reason:
        'Its organizer does not take the other time that was asked for; the meeting stands as it was.',
    });
  });

  it.each<[string, Buffer]>([
    [
      'NULs',
      Buffer.from(
        'From: a@x.example\r\nSubject: a\0b\r\nMessage-ID: <nul\0@x>\r\n\r\nwords\0words',
      ),
    ],
    [
      'base64 that is broken',
      Buffer.from(
        'From: a@x.example\r\nContent-Type: text/calendar; method=REQUEST\r\nContent-Transfer-Encoding: base64\r\n\r\n%%%=A=',
      ),
    ],
    [
      'parts 30 deep',
      Buffer.from(
        Array.from(
          { length: 30 },
          (_, k) => `Content-Type: multipart/mixed; boundary=b${k}\r\n\r\n--b${k}\r\n`,
        ).join(''),
      ),
    ],
    [
      '300 KB of headers',
      Buffer.from(`From: a@x.example\r\nX-Long: ${'a '.repeat(150_000)}\r\n\r\nwords`),
    ],
    ['bytes that are no text', Buffer.from([0xff, 0xfe, 0x00, 0x81, 0x0d, 0x0a, 0x0d, 0x0a, 0x80])],
    [
      'a lone half of a letter',
      Buffer.from('From: a@x.example\r\nSubject: =?utf-16?B?2D0=?=\r\n\r\nwords'),
    ],
    ['nothing', Buffer.from('')],
  ])('%s is put aside with a reason', async (_, raw) => {
    const answer = await hand({ raw });
    expect(answer.state).toBe('aside');
    expect(answer.reason).toMatch(/^[A-Z].*\.$/s);
  });
});

interface PythonShape {
  name: string;
  uid: string;
  calendar: string;
  expected: {
    starts?: string[];
    days?: string[];
    minutes: number;
    title?: string;
    people?: string[];
  };
}
/** Invitations that another program composes, each with what it says of itself. */
function composedElsewhere(): PythonShape[] {
  const script = fileURLToPath(new URL('../../../tests/support/shapesOfMail.py', import.meta.url));
  const run = spawnSync('/usr/bin/python3', [script], { encoding: 'utf8', maxBuffer: 2 ** 24 });
  if (run.status !== 0) throw new Error(`the invitations were not composed: ${run.stderr}`);
  return JSON.parse(run.stdout) as PythonShape[];
}

describe('what another program composes', () => {
  const shapes = composedElsewhere();
  it('is of as many shapes as it takes', () => expect(shapes.length).toBeGreaterThan(75));

  it.each(shapes.map((one) => [one.name, one] as const))('%s', async (_, shape) => {
    const raw = Buffer.from(
      [
        `From: <${HOST}>`,
        `Message-ID: <${shape.uid}>`,
        'MIME-Version: 1.0',
        'Content-Type: text/calendar; charset=utf-8; method=REQUEST',
        '',
        shape.calendar,
      ].join('\r\n'),
    );
    expect(await hand({ raw })).toEqual({ state: 'counted', reason: '' });
    const { starts, days, minutes, title = 'Quay inspection', people } = shape.expected;
    const [event] = await server.sql<{ title: string; zone: string }>(
      'select title, zone from event where uid = $1',
      [shape.uid],
    );
    expect(event!.title).toBe(title);
    const dates = await server.sql<{ at: string; day: string; minutes: number }>(
      `select to_char(occurrence.starts_at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI"Z"') as at,
              to_char(occurrence.starts_at at time zone event.zone, 'YYYY-MM-DD') as day,
              event.length_minutes as minutes
       from occurrence join event on event.id = event_id where uid = $1 order by occurrence.starts_at`,
      [shape.uid],
    );
    if (starts) expect(dates.map((one) => one.at)).toEqual(starts);
    else expect(dates.map((one) => one.day)).toEqual(days);
    for (const one of dates) expect(one.minutes).toBe(minutes);
    if (!people) return;
    const there = await server.sql<{ one: string }>(
      `select participant.email || ' ' || participant.role || ' ' || participant.reply as one from participant
       join event on event.id = event_id where uid = $1 and participant.role <> 'organizer'`,
      [shape.uid],
    );
    expect(there.map((row) => row.one).sort()).toEqual([...people].sort());
  });
});
