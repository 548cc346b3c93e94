import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { nameIn } from './names.ts';
import { readSentence, type Chip, type Reader, type SentenceNames } from './sentence.ts';
import { mistakes } from './spelling.ts';

const people = [
  'Ines Aldabe',
  'Tomas Okafor',
  'Mika Sandoval',
  'Jonas Vågen',
  'Henrik Sæther',
  'Grace Paul',
  'Wanjiru Keele',
  'Tui Parata',
  'Devika Menon',
  'Ravi Menon',
].map((name, k) => ({ id: k + 1, name }));

const names: SentenceNames = {
  people,
  teams: [
    { id: 1, name: 'Kelp Forests', memberIds: [1, 2] },
    { id: 2, name: 'Sea Ice', memberIds: [3] },
  ],
  resources: [
    { id: 101, name: 'Gannet', kind: 'room' },
    { id: 102, name: 'Wet lab A', kind: 'lab' },
    { id: 103, name: 'Sonar kit', kind: 'equipment' },
  ],
  sites: [
    { id: 1, name: 'Skerry House', city: 'Bergen', zone: 'Europe/Oslo' },
    { id: 2, name: 'Bluff Station', city: 'Halifax', zone: 'America/Halifax' },
  ],
  features: ['video', 'screen', 'whiteboard'],
};

/** A Tuesday. */
const reader: Reader = { today: '2026-11-24', minute: 10 * 60, order: 'day-first' };
const read = (text: string) => readSentence(text, names, reader);
const brief = (chips: Chip[]) =>
  chips.map((chip) => {
    switch (chip.kind) {
      case 'title':
        return `title ${chip.text}`;
      case 'person':
      case 'team':
        return `${chip.optional ? 'optional ' : ''}${chip.name}`;
      case 'resource':
      case 'room':
        return chip.name;
      case 'address':
        return chip.email;
      case 'day':
        return chip.date;
      case 'days':
        return `${chip.from} +${chip.days}`;
      case 'time':
        return `${chip.minute} o'clock`;
      case 'between':
        return `${chip.from} to ${chip.to}`;
      case 'length':
        return `${chip.minutes} min`;
      case 'weekly':
        return `every ${chip.everyWeeks}${chip.count ? ` x${chip.count}` : ''}`;
      default:
        return `? ${chip.words}`;
    }
  });

describe('a sentence', () => {
  it.each<[string, string[]]>([
    [
      'kelp review with Ines and Tomas Thu 14:00 45m in Gannet',
      [
        'title Kelp review',
        'Ines Aldabe',
        'Tomas Okafor',
        '2026-11-26',
        "840 o'clock",
        '45 min',
        'Gannet',
      ],
    ],
    [
      'array calibration with Mkia, Tomsa and Wanjiru next week for an hour',
      [
        'title Array calibration',
        'Mika Sandoval',
        'Tomas Okafor',
        'Wanjiru Keele',
        '2026-11-30 +5',
        '60 min',
      ],
    ],
    ['Ines Tomas tomorrow 2pm', ['Ines Aldabe', 'Tomas Okafor', '2026-11-25', "840 o'clock"]],
    [
      'ice log with sea ice weekly 6 times Tuesday at 9 30 min',
      ['title Ice log', 'Sea Ice', 'every 1 x6', '2026-11-24', "540 o'clock", '30 min'],
    ],
    ['winch with Jonas Vagen and Saether', ['title Winch', 'Jonas Vågen', 'Henrik Sæther']],
    [
      'tide tables with Grace and maybe Tui every second week in Halifax',
      ['title Tide tables', 'Grace Paul', 'optional Tui Parata', 'every 2', 'a room in Halifax'],
    ],
    [
      'handover with jon.skau@harbour.example 26 Nov 10.45 1h30 with sonar kit',
      [
        'title Handover',
        'jon.skau@harbour.example',
        '2026-11-26',
        "645 o'clock",
        '90 min',
        'Sonar kit',
      ],
    ],
    ['budget with Zebulon Friday', ['title Budget', '? Zebulon', '2026-11-27']],
    [
      'budget with kelp forests every Wednesday noon',
      ['title Budget', 'Kelp Forests', 'every 1', '2026-11-25', "720 o'clock"],
    ],
    ['chat with Ines in wet lab a', ['title Chat', 'Ines Aldabe', 'Wet lab A']],
    ['chat with Ines in a room', ['title Chat', 'Ines Aldabe', 'a room at each site']],
    ['just some words', ['title Just some words']],
    ['', []],
  ])('“%s”', (text, expected) => {
    expect(brief(read(text))).toEqual(expected);
  });

  it('offers the others that a name could mean', () => {
    const chip = read('review with Menon').find((one) => one.kind === 'person');
    expect(chip).toMatchObject({ name: 'Devika Menon', others: [{ name: 'Ravi Menon' }] });
  });

  it('reads whatever is typed, and loses no word of it', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 60 }), (text) => {
        const said = read(text).flatMap((chip) => chip.words.split(' '));
        for (const typed of text.replace(/[,;]/g, ' ').split(/\s+/).filter(Boolean)) {
          // A colon ends a word and is none of it: “at:” joins as “at” does. So does a mark.
          const open = typed.replace(/(?<!:):+$/, '') || typed;
          const word = open.replace(/(?<=\p{L}|\d)[!?]+$/u, '');
          const joins =
            /^(and|with|w\/|plus|&|in|at|@|on|the|for|a|an|rooms?|from|about|regarding|re|me|myself|us|please|or|by|maybe|optional|optionally|perhaps|possibly|[,;:-]+)$/i;
          if (!joins.test(word)) expect(said.join(' ')).toContain(word.replace(/[–—]/g, '-'));
        }
      }),
      { numRuns: 300, examples: [['@:'], ['with: Ines'], ['0?:']] },
    );
  });
});

describe('names', () => {
  it('are found with a letter wrong, left out, added or two changed about, but not with more', () => {
    for (const typed of ['Wanjiru', 'wanjiro', 'Wanjru', 'Wannjiru', 'Wanijru'])
      expect(nameIn(typed, people)?.best.name, typed).toBe('Wanjiru Keele');
    expect(nameIn('Tua', people)).toBeNull();
    expect(nameIn('Xavier', people)).toBeNull();
  });

  it('mistakes are counted alike both ways, and none only between equals', () => {
    const word = fc.string({ maxLength: 8, unit: fc.constantFrom('a', 'b', 'c') });
    fc.assert(
      fc.property(word, word, (a, b) => {
        expect(mistakes(a, b, 8)).toBe(mistakes(b, a, 8));
        expect(mistakes(a, b, 8) === 0).toBe(a === b);
      }),
    );
  });
});
