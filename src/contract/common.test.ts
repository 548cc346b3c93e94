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

  // That it is read in steps as many as its letters is held by tests/patterns.
  it.each([`a@${'a-'.repeat(120)}`, `${'a.'.repeat(120)}@b`])(
    'may not be so long and without an end: %j',
    (text) => expect(mailAddress.safeParse(text).success).toBe(false),
  );
});
