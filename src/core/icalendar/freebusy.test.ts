import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { composeFreeBusy, parseFreeBusy } from './freebusy.ts';

const published = (lines: string[]) =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//x//x//EN', ...lines, 'END:VCALENDAR', ''].join(
    '\r\n',
  );

describe('published free/busy', () => {
  it('reads the example of RFC 5545 section 3.6.4', () => {
    const text = published([
      'BEGIN:VFREEBUSY',
      'UID:19970901T115957Z-76A912@example.com',
      'DTSTAMP:19970901T120000Z',
      'ORGANIZER:jsmith@example.com',
      'DTSTART:19980313T141711Z',
      'DTEND:19980410T141711Z',
      'FREEBUSY:19980314T233000Z/19980315T003000Z',
      'FREEBUSY:19980316T153000Z/19980316T163000Z',
      'FREEBUSY:19980318T030000Z/19980318T040000Z',
      'URL:http://www.example.com/calendar/busytime/jsmith.ifb',
      'END:VFREEBUSY',
    ]);
    const { covers, busy } = parseFreeBusy(text);
    expect(covers).toEqual([
      { start: Date.UTC(1998, 2, 13, 14, 17, 11), end: Date.UTC(1998, 3, 10, 14, 17, 11) },
    ]);
    expect(busy).toHaveLength(3);
    expect(busy[0]).toEqual({
      start: Date.UTC(1998, 2, 14, 23, 30),
      end: Date.UTC(1998, 2, 15, 0, 30),
      occupancy: 'busy',
    });
  });

  it('reads types, durations and lists, leaves out what is free, and takes unknown types for busy', () => {
    const text = published([
      'BEGIN:VFREEBUSY',
      'DTSTART:20261124T000000Z',
      'DTEND:20261201T000000Z',
      'FREEBUSY;FBTYPE=BUSY-UNAVAILABLE:20261124T080000Z/PT8H30M',
      'FREEBUSY;FBTYPE=FREE:20261125T160000Z/PT3H',
      'FREEBUSY;FBTYPE=BUSY-TENTATIVE:20261125T080000Z/PT1H,20261126T080000Z/PT1H',
      'FREEBUSY;FBTYPE=X-SAILING:20261127T080000Z/PT1H',
      'END:VFREEBUSY',
    ]);
    expect(
      parseFreeBusy(text).busy.map(({ start, end, occupancy }) => [
        new Date(start).getUTCDate(),
        (end - start) / 60_000,
        occupancy,
      ]),
    ).toEqual([
      [24, 510, 'away'],
      [25, 60, 'tentative'],
      [26, 60, 'tentative'],
      [27, 60, 'busy'],
    ]);
  });

  it('reads several VFREEBUSY, and between them nothing is known', () => {
    const part = (from: string, to: string, busy: string) => [
      'BEGIN:VFREEBUSY',
      `DTSTART:${from}T000000Z`,
      `DTEND:${to}T000000Z`,
      `FREEBUSY:${busy}T080000Z/PT1H`,
      'END:VFREEBUSY',
    ];
    const { covers, busy } = parseFreeBusy(
      published([
        ...part('20261124', '20261201', '20261125'),
        ...part('20261208', '20261215', '20261209'),
        ...part('20261201', '20261203', '20261202'),
      ]),
    );
    const days = covers.map(({ start, end }) =>
      [start, end].map((at) => new Date(at).getUTCDate()),
    );
    expect(days).toEqual([
      [24, 3],
      [8, 15],
    ]);
    expect(busy.map(({ start }) => new Date(start).getUTCDate())).toEqual([25, 9, 2]);
  });

  it.each(['UTC', 'Pacific/Auckland'])(
    'reads dates and local times in the publisher’s zone, though the machine is in %s',
    (machine) => {
      const before = process.env.TZ;
      process.env.TZ = machine;
      try {
        const { covers, busy } = parseFreeBusy(
          published([
            'BEGIN:VFREEBUSY',
            'DTSTART;VALUE=DATE:20261124',
            'DTEND;VALUE=DATE:20261201',
            'FREEBUSY;TZID=Europe/Oslo:20261125T090000/PT1H',
            'FREEBUSY:20261126T090000/20261126T103000',
            'END:VFREEBUSY',
          ]),
          'Asia/Kolkata',
        );
        expect(covers).toEqual([
          { start: Date.UTC(2026, 10, 23, 18, 30), end: Date.UTC(2026, 10, 30, 18, 30) },
        ]);
        expect(busy.map(({ start, end }) => [start, end])).toEqual([
          [Date.UTC(2026, 10, 25, 8), Date.UTC(2026, 10, 25, 9)],
          [Date.UTC(2026, 10, 26, 3, 30), Date.UTC(2026, 10, 26, 5)],
        ]);
      } finally {
        process.env.TZ = before ?? '';
        if (before === undefined) delete process.env.TZ;
      }
    },
  );

  it('is read with a byte order mark and NULs in it', () => {
    const text = published([
      'BEGIN:VFREEBUSY',
      'DTSTART:20261124T000000Z',
      'DTEND:20261201T000000Z',
      'FREEBUSY:20261125T080000Z/PT1H',
      'END:VFREEBUSY',
    ]);
    expect(parseFreeBusy(`\uFEFF${text.replace('VERSION', '\0VERSION')}`).busy).toHaveLength(1);
  });

  it('says what is wrong with what is not free/busy', () => {
    expect(() => parseFreeBusy('<html>')).toThrow('no iCalendar text');
    expect(() => parseFreeBusy(published(['BEGIN:VEVENT', 'UID:1', 'END:VEVENT']))).toThrow(
      'VFREEBUSY',
    );
    expect(() => parseFreeBusy(published(['BEGIN:VFREEBUSY', 'END:VFREEBUSY']))).toThrow('DTSTART');
  });

  it('is read as it was written', () => {
    const span = fc
      .tuple(
        fc.nat(1000),
        fc.integer({ min: 1, max: 90 }),
        fc.constantFrom('busy' as const, 'away' as const, 'tentative' as const),
      )
      .map(([at, length, occupancy]) => {
        const start = Date.UTC(2026, 10, 24) + at * 300_000;
        return { start, end: start + length * 300_000, occupancy };
      });
    const owner = {
      name: 'Priya Raman',
      email: 'priya@x.example',
      url: 'https://x.example/priya.ifb',
    };
    fc.assert(
      fc.property(fc.array(span, { maxLength: 30 }), (busy) => {
        const covers = { start: Date.UTC(2026, 10, 1), end: Date.UTC(2027, 1, 1) };
        const text = composeFreeBusy(owner, { covers, busy }, Date.UTC(2026, 10, 24));
        expect(parseFreeBusy(text)).toEqual({ covers: [covers], busy });
      }),
      { numRuns: 30 },
    );
  });
});
