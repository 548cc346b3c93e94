import { expect, it } from 'vitest';
import type { Reader } from '../sentence/sentence.ts';
import { readPlaceSentence, type PlaceNames, type PlaceSentence } from './sentence.ts';

const NAMES: PlaceNames = {
  me: 1,
  people: [
    { id: 1, name: 'Ines Aldabe' },
    { id: 2, name: 'Tomas Okafor' },
  ],
  sites: [
    { id: 1, name: 'Skerry House', city: 'Bergen' },
    { id: 2, name: 'Southern Station', city: 'Hobart' },
  ],
};
const READER: Reader = { today: '2026-11-24', minute: 600, order: 'day-first' };
const NOTHING: PlaceSentence = {
  kind: 'desk',
  date: null,
  from: null,
  to: null,
  minutes: null,
  seats: 1,
  siteId: null,
  count: 1,
  near: [],
  text: '',
  unread: [],
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
  ['room 26 Nov 13-15', { kind: 'room', date: '2026-11-26', from: 780, to: 900, minutes: 120 }],
  ['two rooms 14:00', { kind: 'room', count: 2, from: 840, to: 900 }],
  ['find a room at 2pm', { kind: 'room', from: 840, to: 900 }],
  ['find a room at 2', { kind: 'room', from: 840, to: 900 }],
  ['meeting room tomorrow morning', { kind: 'room', date: '2026-11-25', from: 480, to: 720 }],
  [
    'any 90 minutes on Thursday near Ines',
    { kind: 'room', date: '2026-11-26', minutes: 90, near: [1] },
  ],
  [
    'room with video near Ines and Tomas Friday',
    { kind: 'room', date: '2026-11-27', near: [1, 2], text: 'video' },
  ],
  ['I need a desk near me tomorrow', { date: '2026-11-25', near: [1] }],
  ['book a van for Friday', { kind: 'vehicle', date: '2026-11-27' }],
  ['desk 31 Feb', { unread: ['“31 Feb”: there is no such day'] }],
  [
    'room Thursday or Friday',
    { kind: 'room', date: '2026-11-26', unread: ['“Friday”: only one is taken'] },
  ],
  [
    'room every Monday',
    { kind: 'room', date: '2026-11-30', unread: ['“every”: a place is looked for once'] },
  ],
])('%s', (sentence, read) => {
  expect(readPlaceSentence(sentence, NAMES, READER)).toEqual({ ...NOTHING, ...read });
});

it.each([
  'desk',
  'desk plan for spring',
  'kelp review with Ines Thu 14:00',
  'room service',
  'any news on Thursday',
  'book club with Ines',
  '',
])('is none: %s', (sentence) => {
  expect(readPlaceSentence(sentence, NAMES, READER)).toBeNull();
});
