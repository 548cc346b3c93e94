import { expect, it } from 'vitest';
import { DAY, HOUR, MINUTE } from '../time/interval.ts';
import { attentionTo } from './attention.ts';

const NOW = Date.UTC(2026, 10, 24, 8);
const silent = (invitedAt: number, nudgedAt: number | null = null) => ({
  name: 'Idris Kaya',
  role: 'required' as const,
  reply: 'needs-action' as const,
  invitedAt,
  nudgedAt,
  proposals: 0,
});
const kinds = (start: number, one: ReturnType<typeof silent>) =>
  attentionTo({ start, replies: [one] }, NOW).map(({ kind }) => kind);

it.each<[string, number, ReturnType<typeof silent>, string[]]>([
  ['asked a second ago for tomorrow', NOW + 20 * HOUR, silent(NOW - 1000), []],
  ['asked two hours ago for tomorrow', NOW + 20 * HOUR, silent(NOW - 2 * HOUR), ['soon']],
  ['nudged a minute ago', NOW + 20 * HOUR, silent(NOW - DAY, NOW - MINUTE), []],
  [
    'asked ten minutes ago for in half an hour',
    NOW + 30 * MINUTE,
    silent(NOW - 10 * MINUTE),
    ['soon'],
  ],
  ['asked five minutes ago for in half an hour', NOW + 30 * MINUTE, silent(NOW - 5 * MINUTE), []],
  ['asked three days ago for next week', NOW + 7 * DAY, silent(NOW - 3 * DAY), ['silent']],
])('%s', (_, start, one, expected) => {
  expect(kinds(start, one)).toEqual(expected);
});
