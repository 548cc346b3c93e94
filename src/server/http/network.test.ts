import { expect, it } from 'vitest';
import { networkOf } from './network.ts';

it('counts what one customer has to themselves as one network address', () => {
  expect(networkOf('192.0.2.7')).toBe('192.0.2.7');
  expect(networkOf('::ffff:192.0.2.7')).toBe('192.0.2.7');
  expect(networkOf('2001:db8:1:2:3:4:5:6')).toBe('2001:db8:1:2');
  expect(networkOf('2001:db8::7')).toBe('2001:db8:0:0');
  expect(networkOf('2001:db8:1:2::9')).toBe(networkOf('2001:db8:1:2:ffff::'));
  expect(networkOf('::1')).toBe('0:0:0:0');
});
