import { expect, it } from 'vitest';
import { timedPoints } from './agenda.ts';

it.each([
  ['Where the year stands, Ines 10 min', 'Where the year stands, Ines', 10],
  ['Ship days, 8% over (15 min)', 'Ship days, 8% over', 15],
  ['Rent of Coast Office: 10m', 'Rent of Coast Office', 10],
  ['What we decide – 1 h 30 min.', 'What we decide', 90],
  ['Questions 1h30', 'Questions', 90],
])('“%s” is a point of %s and its minutes', (line, words, minutes) =>
  expect(timedPoints([line])).toEqual([{ words, minutes }]),
);

it.each(['', '10 min', 'Budget 2027', 'Room 12', 'Call at 10:00', 'Paint 0 min', 'Winter 90 days'])(
  '“%s” is no point with a length',
  (line) => expect(timedPoints([line])).toEqual([]),
);

it('a text that was never a point is not looked through for one', () => {
  const hostile = `a${','.repeat(20_000)}b 10 min`;
  expect(timedPoints([hostile, 'Rent 10 min'])).toEqual([{ words: 'Rent', minutes: 10 }]);
});
