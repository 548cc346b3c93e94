import { describe, expect, it } from 'vitest';
import { retitled, titleOfBooking } from './ownTitle.ts';

describe('a booking that nobody gave a title', () => {
  it('is called by the places it has, wherever it goes', () => {
    expect(titleOfBooking(['Kittiwake', 'Skua'])).toBe('Kittiwake, Skua booked');
    expect(retitled('Kittiwake booked', ['Kittiwake'], ['Puffin'])).toBe('Puffin booked');
    expect(retitled('Kittiwake, Skua booked', ['Kittiwake'], ['Puffin'])).toBe(
      'Puffin, Skua booked',
    );
    expect(retitled('Kittiwake, Skua booked', ['Skua'], [])).toBe('Kittiwake booked');
    expect(retitled('Kittiwake, Skua booked', ['Kittiwake'], ['Skua'])).toBe('Skua booked');
  });

  it('keeps what somebody called it, and its name where it has no place any more', () => {
    expect(retitled('Kelp review', ['Kittiwake'], ['Puffin'])).toBe('Kelp review');
    expect(retitled('All rooms booked', ['Kittiwake'], ['Puffin'])).toBe('All rooms booked');
    expect(retitled('Kittiwake booked', ['Kittiwake'], [])).toBe('Kittiwake booked');
    expect(retitled('Kittiwake booked', [], ['Puffin'])).toBe('Kittiwake booked');
  });

  it('is never longer than a title may be', () => {
    expect(titleOfBooking(Array.from({ length: 40 }, (_, k) => `Room ${k}`)).length).toBe(200);
  });
});
