import { expect, it } from 'vitest';
import { readCommand, type Command } from './command.ts';
import type { Reader } from './sentence.ts';

const resources = ['Puffin', 'Wet lab A', 'Great Auk'].map((name, k) => ({
  id: k + 1,
  name,
  kind: 'room',
}));
/** A Tuesday. */
const reader: Reader = { today: '2026-11-24', minute: 600, order: 'day-first' };

const brief = (command: Command | null) =>
  command && [
    command.verb,
    command.verb === 'book' ? command.place.name : command.title,
    ...command.chips.map((chip) =>
      chip.kind === 'day' ? chip.date : chip.kind === 'time' ? chip.minute : chip.kind,
    ),
  ];

it.each([
  ['book puffin', ['book', 'Puffin']],
  ['reserve wet lab a tomorrow 10-11', ['book', 'Wet lab A', '2026-11-25', 600, 'length']],
  ['book the great auk at 2pm for 45m', ['book', 'Great Auk', 840, 'length']],
  ['move kelp review to Friday 14:00', ['move', 'kelp review', '2026-11-27', 840]],
  ['move the kelp review to 9', ['move', 'kelp review', 540]],
  ['reschedule road to Bergen to Monday', ['move', 'road to Bergen', '2026-11-30']],
  ['postpone winch', ['move', 'winch']],
  ['cancel kelp review', ['cancel', 'kelp review']],
  ['cancel my Monday stand-up', ['cancel', 'stand-up', '2026-11-30']],
  ['book club with Ines', null],
  ['book', null],
  ['cancel', null],
  ['moving house with Ines', null],
  ['constructor of worlds', null],
])('“%s”', (sentence, meant) => {
  expect(brief(readCommand(sentence, { resources }, reader))).toEqual(meant);
});
