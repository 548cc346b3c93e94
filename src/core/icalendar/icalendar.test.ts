import { USUAL_FIELDS } from '../meetings/fields.ts';
import ICAL from 'ical.js';
import { describe, expect, it } from 'vitest';
import { composeMessage } from './compose.ts';
import type { MeetingMessage } from './message.ts';
import { faultsOf, readCalendars } from '../../../tests/support/readCalendars.ts';
import { answererOf, parseAnswer, type ReplyMessage } from './parse.ts';
import { composeReply } from './reply.ts';
import { namedIn } from './times.ts';

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
  resources: [
    { name: 'Gannet', uri: 'urn:uuid:7b1f3a52-0000-4000-8000-000000000001', isRoom: true },
    { name: 'Sonar kit', uri: 'urn:uuid:7b1f3a52-0000-4000-8000-000000000002', isRoom: false },
  ],
  transparent: false,
  confidential: false,
  fields: {
    ...USUAL_FIELDS,
    title: 'Kelp; review, and “plans”',
    place: 'Gannet (Skerry House)',
    description: 'One\nTwo',
  },
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
    expect(event.getFirstPropertyValue('summary')).toBe(message.fields.title);
    expect(event.getFirstPropertyValue('description')).toBe('One\nTwo');
    const [tomas, robine] = event.getAllProperties('attendee');
    expect(tomas!.getFirstValue()).toBe('mailto:tomas@ternrock.example');
    expect(tomas!.getFirstParameter('cn')).toBe('Okafor, Tomas');
    expect(tomas!.getFirstParameter('rsvp')).toBe('TRUE');
    expect(robine!.getFirstParameter('role')).toBe('OPT-PARTICIPANT');
    expect(robine!.getFirstParameter('partstat')).toBe('ACCEPTED');
  });

  it('is folded at 75 octets between characters, every line ended by CRLF, the last one too', () => {
    const description = `${'å'.repeat(300)}${'🦭'.repeat(90)}${'海鳥'.repeat(80)} ${'a b'.repeat(99)}`;
    const text = composeMessage({
      ...message,
      fields: { ...message.fields, description },
    });
    expect(faultsOf([text])).toEqual([]);
    expect(text.split('\r\n').some((line) => Buffer.byteLength(line) === 75)).toBe(true);
    expect(readCalendars([text])[0]!.events[0]!.description).toBe(description);
  });

  it('carries no control characters, whatever a title or a name holds', () => {
    const text = composeMessage({
      ...message,
      fields: {
        ...message.fields,
        title: 'Kelp\u0000 re\u0007view\nBEGIN:VALARM',
        description: 'One\r\nTwo\u001b[31m',
      },
      organizer: { name: 'Ines\r\nATTENDEE:mailto:x@y.example', email: message.organizer.email },
      attendees: [{ ...message.attendees[0]!, name: 'To"mas\u0085 \n^ Okafor' }],
    });
    expect(faultsOf([text])).toEqual([]);
    const [event] = readCalendars([text])[0]!.events;
    expect(event).toMatchObject({
      summary: 'Kelp review BEGIN:VALARM',
      description: 'One\nTwo[31m',
    });
    expect(event!.attendees.map((one) => one.uri)).toEqual([
      'mailto:tomas@ternrock.example',
      ...message.resources.map((one) => one.uri),
    ]);
  });

  it('says whether it takes time, how far it may be told, and what is reserved', () => {
    const [event] = readCalendars([composeMessage(message)])[0]!.events;
    expect(event).toMatchObject({ transp: 'OPAQUE', class: 'PUBLIC' });
    expect(event!.attendees.slice(2)).toMatchObject([
      { CN: 'Gannet', CUTYPE: 'ROOM', ROLE: 'NON-PARTICIPANT', PARTSTAT: 'ACCEPTED' },
      { CN: 'Sonar kit', CUTYPE: 'RESOURCE' },
    ]);
    const quiet = composeMessage({ ...message, transparent: true, confidential: true });
    expect(readCalendars([quiet])[0]!.events[0]).toMatchObject({
      transp: 'TRANSPARENT',
      class: 'PRIVATE',
    });
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
    const fields = { ...message.fields, title: 'In the boathouse' };
    const moved = { ...message, fields, recurrenceId: '2026-12-03T12:00' };
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

  it('names a date by its start in the series’ own zone, wherever and however it was moved to', () => {
    const original = { zone: 'Europe/Oslo', allDay: false };
    const recurrenceId = '2026-12-03T12:00';
    const moved = [
      { ...message, zone: 'Australia/Hobart', recurrenceId, original },
      {
        ...message,
        start: Date.UTC(2026, 11, 3, 0),
        end: Date.UTC(2026, 11, 4, 0),
        allDay: true,
        zone: 'UTC',
        recurrenceId,
        original,
      },
    ];
    const series = { rule: 'FREQ=WEEKLY;BYDAY=TH', startsAt: '2026-11-26T12:00', except: [] };
    const texts = [
      ...moved.map(composeMessage),
      ...moved.map((one) => composeMessage({ ...message, series, changed: [one] })),
    ];
    for (const text of texts) {
      expect(text).toContain('RECURRENCE-ID;TZID=Europe/Oslo:20261203T120000');
      expect(text).toContain('TZID:Europe/Oslo');
      expect(text).not.toContain('Hobart');
    }
    // A date of whole days that has a time now is still named by its day.
    const ofDays = { ...moved[0]!, original: { zone: 'Europe/Oslo', allDay: true } };
    expect(composeMessage(ofDays)).toContain('RECURRENCE-ID;VALUE=DATE:20261203');
    expect(composeMessage(ofDays)).not.toContain('VTIMEZONE');
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

/** The answers of a REPLY. */
function parseReply(text: string): ReplyMessage[] {
  const message = parseAnswer(text);
  if (message.method !== 'REPLY') throw new Error(`It is a ${message.method}.`);
  return message.answers;
}

describe('an iTIP REPLY', () => {
  const reply = (comment = '') =>
    composeReply(composeMessage(message), {
      email: 'tomas@ternrock.example',
      reply: 'declined',
      comment,
      stamp: message.stamp,
    });

  it('is read back as it was written', () => {
    expect(faultsOf([reply('At sea, sorry')])).toEqual([]);
    expect(parseReply(reply('At sea, sorry'))).toEqual([
      {
        uid: 'abc@ternrock.example',
        sequence: 2,
        stamp: message.stamp,
        by: [{ email: 'tomas@ternrock.example', reply: 'declined', sentBy: null, sends: null }],
        comment: 'At sea, sorry',
        occurrence: null,
        andLater: false,
      },
    ]);
  });

  it('to one occurrence names it, in whatever zone it is given', () => {
    const asked = composeMessage({ ...message, recurrenceId: '2026-12-03T12:00' });
    expect(asked).toContain('RECURRENCE-ID;TZID=Europe/Oslo:20261203T120000');
    const answer = composeReply(asked, {
      email: 'tomas@ternrock.example',
      reply: 'accepted',
      comment: '',
      stamp: message.stamp,
    });
    const named = (text: string, zone = 'Europe/Oslo') =>
      namedIn(parseReply(text)[0]!.occurrence!, zone);
    expect(named(answer)).toBe('2026-12-03T12:00');
    const as = (given: string) => answer.replace(/RECURRENCE-ID[^\r]*/, `RECURRENCE-ID${given}`);
    expect(named(as(':20261203T110000Z'))).toBe('2026-12-03T12:00');
    // A program in Hobart names the same moment by its own clock, which is another date.
    expect(named(as(';TZID=Australia/Hobart:20261203T220000'))).toBe('2026-12-03T12:00');
    expect(named(as(';TZID=Australia/Hobart:20261204T080000'))).toBe('2026-12-03T22:00');
    expect(named(as(':20261203T120000'))).toBe('2026-12-03T12:00');
    expect(named(as(';VALUE=DATE:20261203'))).toBe('2026-12-03T00:00');
  });

  it('reads the RECURRENCE-ID in a zone that only the letter itself explains', () => {
    const text = [
      'BEGIN:VCALENDAR',
      'VERSION:2.0',
      'METHOD:REPLY',
      'BEGIN:VTIMEZONE',
      'TZID:Harbour Time',
      'BEGIN:STANDARD',
      'DTSTART:19700101T000000',
      'TZOFFSETFROM:+0300',
      'TZOFFSETTO:+0300',
      'END:STANDARD',
      'END:VTIMEZONE',
      'BEGIN:VEVENT',
      'UID:abc@ternrock.example',
      'ATTENDEE;PARTSTAT=DECLINED:mailto:tomas@ternrock.example',
      'RECURRENCE-ID;TZID=Harbour Time:20261203T140000',
      'END:VEVENT',
      'END:VCALENDAR',
    ].join('\n');
    expect(namedIn(parseReply(text)[0]!.occurrence!, 'Europe/Oslo')).toBe('2026-12-03T12:00');
  });

  it('answers for every event in it, and is read with a mark or NULs in front', () => {
    const second = reply()
      .match(/BEGIN:VEVENT[\s\S]*END:VEVENT\r\n/)![0]
      .replace('DECLINED', 'ACCEPTED')
      .replace('SEQUENCE', 'RECURRENCE-ID:20261203T110000Z\r\nSEQUENCE');
    const both = `\uFEFF\0${reply().replace('END:VCALENDAR', `${second}END:VCALENDAR`)}`;
    expect(
      parseReply(both).map((one) => [
        answererOf(one, [])!.reply,
        one.occurrence && namedIn(one.occurrence, 'Europe/Oslo'),
      ]),
    ).toEqual([
      ['declined', null],
      ['accepted', '2026-12-03T12:00'],
    ]);
  });

  it.each([
    ['a REQUEST', composeMessage(message), /REQUEST, not an answer/],
    [
      'an answer of nobody',
      reply().replace(/ATTENDEE[^\n]*\n( [^\n]*\n)*/, ''),
      /does not say who answers/,
    ],
    [
      'an answer that is none',
      reply().replace('PARTSTAT=DECLINED', 'PARTSTAT=IN-PROCESS'),
      /of nobody that they accept/,
    ],
    ['no calendar', 'hello', /./],
  ])('%s is refused with a reason', (_, text, reason) =>
    expect(() => parseReply(text)).toThrow(reason),
  );
});
