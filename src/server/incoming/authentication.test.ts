import { expect, it } from 'vitest';
import { authenticOf } from './authentication.ts';

const HOST = 'sunniva@fjordworks.example';
const found = (...results: string[]) => authenticOf(results, 'mx.ternrock.example', HOST);

it('a sender is who they say where the server that received the letter found it', () => {
  expect(found('mx.ternrock.example; dmarc=pass header.from=fjordworks.example')).toBe('DMARC');
  expect(
    found(
      'mx.ternrock.example 1; spf=fail smtp.mailfrom=x@y.example;\r\n dkim=pass (2048-bit key) header.d=fjordworks.example header.s=a',
    ),
  ).toBe('DKIM');
  expect(found('MX.Ternrock.example; spf=pass smtp.mailfrom=bounce@Fjordworks.example')).toBe(
    'SPF',
  );
  expect(
    authenticOf(
      ['mx.a.example; dkim=pass header.d=fjordworks.example'],
      'mx.a.example',
      'sunniva@quay.fjordworks.example',
    ),
  ).toBe('DKIM');
});

it('anything else is no proof', () => {
  expect(found()).toBeNull();
  expect(found('mx.ternrock.example; none')).toBeNull();
  expect(found('mx.ternrock.example; dmarc=fail header.from=fjordworks.example')).toBeNull();
  // Another server's word, or one that came with the letter below the server's own.
  expect(found('mx.evil.example; dmarc=pass header.from=fjordworks.example')).toBeNull();
  expect(
    found(
      'mx.ternrock.example; none',
      'mx.ternrock.example; dmarc=pass header.from=fjordworks.example',
    ),
  ).toBeNull();
  // True of somebody else.
  expect(found('mx.ternrock.example; dkim=pass header.d=evil.example')).toBeNull();
  expect(found('mx.ternrock.example; dkim=pass header.d=example')).toBeNull();
  expect(found('mx.ternrock.example; spf=pass smtp.mailfrom=x@evil.example')).toBeNull();
  // Said in a comment.
  expect(
    found('mx.ternrock.example; none (; dmarc=pass header.from=fjordworks.example)'),
  ).toBeNull();
});
