import { describe, expect, it } from 'vitest';
import { mailAddress } from './common.ts';

describe('a mail address', () => {
  it.each([
    'name@example.org',
    'a.b+c@sub.example.org',
    "o'neil@example.org",
    'blåskjell@fjord.example',
    'почта@пример.рф',
    'x@xn--fiqs8s.example',
  ])('may be %s', (text) => expect(mailAddress.safeParse(text).success).toBe(true));

  it.each([
    '',
    'name',
    'name@example',
    '@example.org',
    '.a@example.org',
    'a.@example.org',
    'a..b@example.org',
    'a b@example.org',
    'a@b@example.org',
    'a@-example.org',
    '<a>@example.org',
    'a,b@example.org',
    'a@example.org\r\nBcc: b@example.org',
    `${'x'.repeat(65)}@example.org`,
    `a@${'x'.repeat(250)}.org`,
  ])('may not be %j', (text) => expect(mailAddress.safeParse(text).success).toBe(false));

  it('is read in no time, however long what is typed', () => {
    const began = performance.now();
    mailAddress.safeParse(`a@${'a-'.repeat(120)}`);
    mailAddress.safeParse(`${'a.'.repeat(120)}@b`);
    expect(performance.now() - began).toBeLessThan(200);
  });
});
