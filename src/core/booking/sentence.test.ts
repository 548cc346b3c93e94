import { expect, it } from 'vitest';
import { readPlaceSentence, type PlaceSentence } from './sentence.ts';

const SITES = [
  { id: 1, name: 'Skerry House', city: 'Bergen' },
  { id: 2, name: 'Southern Station', city: 'Hobart' },
];
const NOTHING: PlaceSentence = {
  kind: 'desk',
  date: null,
  from: null,
  to: null,
  minutes: null,
  seats: 1,
  siteId: null,
  text: '',
};

// Today is Tuesday 24 November 2026.
it.each<[string, Partial<PlaceSentence>]>([
  ['desk with monitor and window on Thursday', { date: '2026-11-26', text: 'monitor window' }],
  ['a desk tomorrow in Bergen', { date: '2026-11-25', siteId: 1 }],
  [
    'room for 6 tomorrow 11:00 to 12:30',
    { kind: 'room', seats: 6, date: '2026-11-25', from: 660, to: 750, minutes: 90 },
  ],
  ['room for 6 people at Southern Station', { kind: 'room', seats: 6, siteId: 2 }],
  ['any lab for 90 minutes on Friday', { kind: 'lab', minutes: 90, date: '2026-11-27' }],
  [
    'Lab Friday afternoon with hood',
    { kind: 'lab', from: 720, to: 1020, date: '2026-11-27', text: 'hood' },
  ],
  ['van Thu at 9', { kind: 'vehicle', date: '2026-11-26', from: 540, to: 600 }],
  ['room with video 12 seats', { kind: 'room', seats: 12, text: 'video' }],
  [
    'parking 26 Nov 8-16:30',
    { kind: 'parking', date: '2026-11-26', from: 480, to: 990, minutes: 510 },
  ],
])('%s', (sentence, read) => {
  expect(readPlaceSentence(sentence, SITES, '2026-11-24')).toEqual({ ...NOTHING, ...read });
});

it.each(['desk', 'desk plan for spring', 'kelp review with Ines Thu 14:00', 'room service', ''])(
  'is none: %s',
  (sentence) => {
    expect(readPlaceSentence(sentence, SITES, '2026-11-24')).toBeNull();
  },
);
