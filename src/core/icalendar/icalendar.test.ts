import ICAL from 'ical.js';
import { describe, expect, it } from 'vitest';
import { composeMessage } from './compose.ts';
import type { MeetingMessage } from './message.ts';
import { occurrenceNamed, parseReply } from './parse.ts';
import { composeReply } from './reply.ts';

const message: MeetingMessage = {
  method: 'REQUEST',
  uid: 'abc@ternrock.example',
  sequence: 2,
  stamp: Date.UTC(2026, 10, 24, 8),
  organizer: { name: 'Ines Aldabe', email: 'ines.aldabe@ternrock.example' },
  attendees: [
    {
      name: 'Okafor, Tomas',
      email: 'tomas@ternrock.example',
      role: 'required',
      reply: 'needs-action',
    },
    { name: 'Robine Thys', email: 'robine@ternrock.example', role: 'optional', reply: 'accepted' },
  ],
  title: 'Kelp; review, and “plans”',
  place: 'Gannet (Skerry House)',
  description: 'One\nTwo',
  start: Date.UTC(2026, 10, 26, 11),
  end: Date.UTC(2026, 10, 26, 11, 45),
  allDay: false,
  zone: 'Europe/Oslo',
};

const eventOf = (text: string) =>
  new ICAL.Component(ICAL.parse(text) as unknown[]).getFirstSubcomponent('vevent')!;

describe('an iTIP REQUEST', () => {
  it('carries what RFC 5546 section 3.2.2 asks, in UTC for a single meeting', () => {
    const text = composeMessage(message);
    expect(text).toMatch(/METHOD:REQUEST/);
    const event = eventOf(text);
    expect(event.getFirstPropertyValue('uid')).toBe('abc@ternrock.example');
    expect(event.getFirstPropertyValue('sequence')).toBe(2);
    expect(String(event.getFirstPropertyValue('dtstart'))).toBe('2026-11-26T11:00:00Z');
    expect(String(event.getFirstPropertyValue('dtend'))).toBe('2026-11-26T11:45:00Z');
    expect(event.getFirstPropertyValue('summary')).toBe(message.title);
    expect(event.getFirstPropertyValue('description')).toBe('One\nTwo');
    const [tomas, robine] = event.getAllProperties('attendee');
    expect(tomas!.getFirstValue()).toBe('mailto:tomas@ternrock.example');
    expect(tomas!.getFirstParameter('cn')).toBe('Okafor, Tomas');
    expect(tomas!.getFirstParameter('rsvp')).toBe('TRUE');
    expect(robine!.getFirstParameter('role')).toBe('OPT-PARTICIPANT');
    expect(robine!.getFirstParameter('partstat')).toBe('ACCEPTED');
  });

  it('folds lines at 75 octets', () => {
    const lines = composeMessage({ ...message, description: 'å'.repeat(300) }).split('\r\n');
    expect(Math.max(...lines.map((line) => Buffer.byteLength(line)))).toBeLessThanOrEqual(75);
  });

  it('gives a series in wall time with a zone that says the same instants', () => {
    const text = composeMessage({
      ...message,
      series: {
        rule: 'FREQ=WEEKLY;BYDAY=TH',
        startsAt: '2026-11-26T12:00',
        except: ['2026-12-24T12:00'],
      },
    });
    const calendar = new ICAL.Component(ICAL.parse(text) as unknown[]);
    const zone = new ICAL.Timezone(calendar.getFirstSubcomponent('vtimezone')!);
    const event = eventOf(text);
    expect(event.getFirstProperty('dtstart')!.getFirstParameter('tzid')).toBe('Europe/Oslo');
    expect(String(event.getFirstPropertyValue('exdate'))).toBe('2026-12-24T12:00:00');
    for (const [wall, instant] of [
      ['2026-11-26T12:00:00', Date.UTC(2026, 10, 26, 11)],
      ['2027-06-03T12:00:00', Date.UTC(2027, 5, 3, 10)],
      ['2027-11-04T12:00:00', Date.UTC(2027, 10, 4, 11)],
    ] as const) {
      const time = ICAL.Time.fromDateTimeString(wall);
      time.zone = zone;
      expect(time.toJSDate().getTime()).toBe(instant);
    }
  });

  it('a series ends at an instant, and carries what is different about single occurrences', () => {
    const series = {
      rule: 'FREQ=WEEKLY;BYDAY=TH;UNTIL=20270325',
      startsAt: '2026-11-26T12:00',
      except: [],
    };
    const moved = { ...message, title: 'In the boathouse', recurrenceId: '2026-12-03T12:00' };
    const text = composeMessage({ ...message, series, changed: [moved] });
    // The whole of Thursday 25 March in Oslo.
    expect(text).toContain('UNTIL=20270325T225900Z');
    const calendar = new ICAL.Component(ICAL.parse(text) as unknown[]);
    const events = calendar.getAllSubcomponents('vevent');
    expect(events.map((one) => one.getFirstPropertyValue('uid'))).toEqual([
      message.uid,
      message.uid,
    ]);
    expect(String(events[1]!.getFirstPropertyValue('recurrence-id'))).toBe('2026-12-03T12:00:00');
    expect(events[1]!.getFirstPropertyValue('summary')).toBe('In the boathouse');
  });

  it('whole days are named without a time, their exceptions too', () => {
    const days = {
      start: Date.UTC(2026, 10, 25, 23),
      end: Date.UTC(2026, 10, 26, 23),
      allDay: true,
    };
    const series = {
      rule: 'FREQ=DAILY;UNTIL=20261130',
      startsAt: '2026-11-26T00:00',
      except: ['2026-11-27T00:00'],
    };
    const text = composeMessage({ ...message, ...days, series });
    expect(text).toMatch(/DTSTART;VALUE=DATE:20261126/);
    expect(text).toMatch(/EXDATE;VALUE=DATE:20261127/);
    expect(text).toMatch(/UNTIL=20261130\s/);
  });

  it('a CANCEL says so', () => {
    expect(
      eventOf(composeMessage({ ...message, method: 'CANCEL' })).getFirstPropertyValue('status'),
    ).toBe('CANCELLED');
  });
});

describe('an iTIP REPLY', () => {
  const reply = (comment = '') =>
    composeReply(composeMessage(message), {
      email: 'tomas@ternrock.example',
      reply: 'declined',
      comment,
      stamp: message.stamp,
    });

  it('is read back as it was written', () => {
    expect(parseReply(reply('At sea, sorry'))).toEqual({
      uid: 'abc@ternrock.example',
      sequence: 2,
      email: 'tomas@ternrock.example',
      reply: 'declined',
      comment: 'At sea, sorry',
      recurrenceId: null,
    });
  });

  it('to one occurrence names it, in whatever way it is given', () => {
    const asked = composeMessage({ ...message, recurrenceId: '2026-12-03T12:00' });
    expect(asked).toContain('RECURRENCE-ID;TZID=Europe/Oslo:20261203T120000');
    const answer = composeReply(asked, {
      email: 'tomas@ternrock.example',
      reply: 'accepted',
      comment: '',
      stamp: message.stamp,
    });
    const { recurrenceId } = parseReply(answer);
    expect(occurrenceNamed(recurrenceId!, 'Europe/Oslo')).toBe('2026-12-03T12:00');
    expect(occurrenceNamed('2026-12-03T11:00:00Z', 'Europe/Oslo')).toBe('2026-12-03T12:00');
  });

  it.each([
    ['a REQUEST', composeMessage(message), /REQUEST, not a REPLY/],
    [
      'an answer of nobody',
      reply().replace(/ATTENDEE[^\n]*\n( [^\n]*\n)*/, ''),
      /exactly one attendee/,
    ],
    [
      'an answer that is none',
      reply().replace('PARTSTAT=DECLINED', 'PARTSTAT=DELEGATED'),
      /not accepted/,
    ],
    ['no calendar', 'hello', /./],
  ])('%s is refused with a reason', (_, text, reason) =>
    expect(() => parseReply(text)).toThrow(reason),
  );
});
