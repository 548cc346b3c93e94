import { describe, expect, it } from 'vitest';
import { readLetter } from './letter.ts';

const many = (count: number, line: string) => line.repeat(count);
const letter = (headers: string, body = 'Hello') =>
  Buffer.from(`From: Jon <jon@harbour.example>\r\nMessage-ID: <a@b>\r\n${headers}\r\n\r\n${body}`);
const calendar = (lines: string) =>
  letter(
    'Content-Type: text/calendar; method=REQUEST',
    `BEGIN:VCALENDAR\r\nMETHOD:REQUEST\r\n${lines}END:VCALENDAR\r\n`,
  );
const EVENT =
  'BEGIN:VEVENT\r\nUID:a\r\nORGANIZER:mailto:a@b.example\r\nATTENDEE:mailto:c@d.example\r\nDTSTAMP:20261101T000000Z\r\n' +
  'DTSTART;TZID=Own:20261201T100000\r\nDTEND;TZID=Own:20261201T110000\r\n';

/** What each would take a parser seconds, minutes or for ever. */
describe('a letter that costs more than its length says', () => {
  it.each([
    ['very many lines', letter('', many(70_000, 'a\r\n')), 'more than 60000 lines'],
    ['folded headers', letter(`Subject: a${many(2_000, '\r\n a')}`), 'lines of headers'],
    [
      'very many parts',
      letter('Content-Type: multipart/mixed; boundary=x', many(600, '--xyz\r\n\r\na\r\n')),
      'more than 500 parts',
    ],
    ['headers without end', letter(`Subject: ${many(30_000, 'ab ')}`), 'no mail that can be read'],
  ])('is not looked into: %s', async (_, source, why) => {
    const read = await readLetter(source);
    expect(read.unread).toContain(why);
    // It is known again, should it come twice.
    expect(read.messageId).toMatch(/^sha256:/);
  });

  it('is a report whose reason is found among thirty thousand lines', async () => {
    const source = letter(
      'Content-Type: multipart/report; report-type=delivery-status; boundary=x',
      `--x\r\nContent-Type: message/delivery-status\r\n\r\nDiagnostic-Code:${many(30_000, '\r\n')}Action: failed\r\n--x--`,
    );
    expect((await readLetter(source)).bounce).toBe('It could not be delivered.');
    const said = letter(
      'Content-Type: multipart/report; report-type=delivery-status; boundary=x',
      '--x\r\nContent-Type: message/delivery-status\r\n\r\nDiagnostic-Code: smtp; 550 5.1.1 No such user\r\n--x--',
    );
    expect((await readLetter(said)).bounce).toBe('550 5.1.1 No such user');
  });

  it.each([
    [
      'a clock that changes every second',
      `BEGIN:VTIMEZONE\r\nTZID:Own\r\nBEGIN:STANDARD\r\nDTSTART:19700101T000000\r\nTZOFFSETFROM:+0100\r\nTZOFFSETTO:+0200\r\nRRULE:FREQ=SECONDLY\r\nEND:STANDARD\r\nEND:VTIMEZONE\r\n${EVENT}END:VEVENT\r\n`,
      'only yearly rules',
    ],
    ['parts in parts', many(5_000, 'BEGIN:VEVENT\r\n'), 'at most 4 deep'],
    [
      'parameters',
      `${EVENT}ATTENDEE${many(10_000, ';A=b')}:mailto:x@y.example\r\nEND:VEVENT\r\n`,
      'parameters of a thing',
    ],
    [
      'values of a parameter',
      `${EVENT}ATTENDEE;A=${many(10_000, 'b,')}b:mailto:x@y.example\r\nEND:VEVENT\r\n`,
      'parameters of a thing',
    ],
    ['lines', `${EVENT}${many(26_000, 'COMMENT:a\r\n')}END:VEVENT\r\n`, 'at most 25000 lines'],
    [
      'dates left out',
      `${EVENT.replaceAll(';TZID=Own', '')}RRULE:FREQ=DAILY\r\n${many(150, `EXDATE:${many(499, '20261201T100000Z,')}20261201T100000Z\r\n`)}END:VEVENT\r\n`,
      'at most 500 dates',
    ],
  ])('is an invitation that is not taken, and says why: %s', async (_, lines, why) => {
    const { part, unread } = await readLetter(calendar(lines));
    expect(unread).toBeNull();
    expect(part).toMatchObject({ kind: 'unreadable', as: 'request' });
    expect((part as { why: string }).why).toContain(why);
  });

  it('is read as long as it is only long: 200,000 folded lines of one text', async () => {
    const { part } = await readLetter(
      calendar(
        `${EVENT.replaceAll(';TZID=Own', '')}DESCRIPTION:${many(50_000, 'boots\r\n ')}\r\nEND:VEVENT\r\n`,
      ),
    );
    expect(part).toMatchObject({ kind: 'request', messages: [{ uid: 'a' }] });
  });
});
