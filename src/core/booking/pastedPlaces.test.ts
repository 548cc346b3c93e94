import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { MOST_PLACES_PASTED, readPlaces } from './pastedPlaces.ts';

const said = (text: string) =>
  readPlaces(text).places.map(({ name, kind, capacity }) => `${name} ${kind} ${capacity}`);

describe('places in a sentence', () => {
  it.each([
    ['Gannet 8', ['Gannet room 8']],
    ['Gannet 8, Fulmar 12', ['Gannet room 8', 'Fulmar room 12']],
    [
      'Gannet (8)\nFulmar: 12 seats\nSkua for 6',
      ['Gannet room 8', 'Fulmar room 12', 'Skua room 6'],
    ],
    ['Gannet, 8 seats; Fulmar, 12', ['Gannet room 8', 'Fulmar room 12']],
    ['3 desks', ['Desk 1 desk 0', 'Desk 2 desk 0', 'Desk 3 desk 0']],
    ['two rooms for 6 and a van', ['Room 1 room 6', 'Room 2 room 6', 'Van vehicle 0']],
    [
      'We have Gannet 8, 2 parking spaces.',
      ['Gannet room 8', 'Parking space 1 parking 0', 'Parking space 2 parking 0'],
    ],
    ['Wet Lab for 4', ['Wet Lab lab 4']],
    ['2 meeting rooms', ['Room 1 room 0', 'Room 2 room 0']],
    ['a projector', ['Projector equipment 0']],
    ['', []],
  ])('%s', (text, places) => {
    expect(said(text)).toEqual(places);
    expect(readPlaces(text).doubts).toEqual([]);
  });

  it.each([
    ['12', 'It says no name.'],
    ['Gannet 8, gannet 4', 'It stands there already.'],
    [
      '7 things',
      'It says how many, and not of what: rooms, labs, desks, vehicles, parking or equipment.',
    ],
  ])('is in doubt: %s', (text, why) => {
    expect(readPlaces(text).doubts).toMatchObject([{ why }]);
  });

  it('gives each place a name of its own, and no more than are taken', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 200 }), (text) => {
        const { places } = readPlaces(text);
        expect(new Set(places.map(({ name }) => name.toLowerCase())).size).toBe(places.length);
        for (const { name } of places) expect(name.trim()).not.toBe('');
      }),
    );
    const many = readPlaces('999 desks; 400 rooms; 200 desks');
    expect(many.places).toHaveLength(400);
    expect(many.doubts).toHaveLength(2);
    expect(MOST_PLACES_PASTED).toBe(500);
  });
});
