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
    expect(covers).toEqual({
      start: Date.UTC(1998, 2, 13, 14, 17, 11),
      end: Date.UTC(1998, 3, 10, 14, 17, 11),
    });
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
        expect(parseFreeBusy(text)).toEqual({ covers, busy });
      }),
      { numRuns: 30 },
    );
  });
});
