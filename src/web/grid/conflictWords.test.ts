import { expect, it } from 'vitest';
import { HOUR } from '../../core/time/interval.ts';
import { conflictWords, type KnownTime } from './conflictWords.ts';

const AT = Date.UTC(2026, 10, 26, 9);
const span = { start: AT, end: AT + 2 * HOUR };
const someone = (name: string, more: Partial<KnownTime> = {}): KnownTime => ({
  name,
  busy: [],
  changeovers: [],
  terms: null,
  ...more,
});
const terms = {
  shortestMinutes: null,
  longestMinutes: 60,
  stepMinutes: null,
  weeklyMinutes: null,
  zone: 'UTC',
  weeks: [],
};

it.each<[string, Parameters<typeof conflictWords>, string]>([
  ['nothing', [span, [], [], [someone('Mika'), someone('Gannet')]], ''],
  ['what only touches it', [span, [], [], [someone('Mika', { busy: [[0, AT, 'busy']] })]], ''],
  [
    'mine, a person and a place of others',
    [span, ['Standup'], ['Field team'], [someone('Mika', { busy: [[AT, AT + HOUR, 'away']] })]],
    'Overlaps Standup. Mika and Field team are taken.',
  ],
  [
    'a place whose units would change',
    [span, [], [], [someone('Sonar kit', { changeovers: [[AT + HOUR + 1, AT + HOUR]] })]],
    'Sonar kit is taken.',
  ],
  [
    'what its rules bar, taken or not',
    [
      span,
      [],
      [],
      [
        someone('Gannet', { busy: [[AT, AT + 9 * HOUR, 'barred']] }),
        someone('Skua', {
          busy: [
            [AT, AT + HOUR, 'busy'],
            [AT, AT + 9 * HOUR, 'barred'],
          ],
          terms,
        }),
      ],
    ],
    'Skua is taken. Gannet cannot be booked then.',
  ],
  [
    'a place that is not booked for so long',
    [span, [], [], [someone('Gannet', { terms })]],
    'Gannet is booked for 1 h at most.',
  ],
  ['more than are named', [span, ['a', 'b', 'c', 'd'], [], []], 'Overlaps a, b and 2 more.'],
])('says of a time that runs into %s', (_, asked, words) => {
  expect(conflictWords(...asked)).toBe(words);
});
