import { describe, expect, it } from 'vitest';
import { HOUR, MINUTE } from '../time/interval.ts';
import {
  cannotCheckIn,
  cannotCheckOut,
  decidedBy,
  givenUpAt,
  stateAfter,
  timeKept,
  warnedAt,
  type Presence,
} from './presence.ts';

const TEN = Date.UTC(2026, 10, 26, 10);
const SPAN = { start: TEN, end: TEN + HOUR };
const HELD: Presence = { state: 'held', usedAt: null, leftAt: null };
const THERE: Presence = { state: 'in-use', usedAt: TEN, leftAt: null };
const at = (minutes: number) => TEN + minutes * MINUTE;

describe('somebody’s being there', () => {
  it('begins from a quarter of an hour before, and ends with the booking', () => {
    expect(cannotCheckIn(HELD, SPAN, at(-16))).toBe('too-early');
    expect(cannotCheckIn(HELD, SPAN, at(-15))).toBeNull();
    expect(cannotCheckIn(HELD, SPAN, at(59))).toBeNull();
    expect(cannotCheckIn(HELD, SPAN, at(60))).toBe('over');
    expect(cannotCheckIn({ ...HELD, state: 'requested' }, SPAN, TEN)).toBe('not-agreed');
    expect(cannotCheckIn({ ...HELD, state: 'released' }, SPAN, TEN)).toBe('over');
  });

  it('is left once, and can be taken up again while it lasts', () => {
    expect(cannotCheckOut(HELD, SPAN, TEN)).toBe('not-there');
    expect(cannotCheckIn(THERE, SPAN, at(5))).toBe('there-already');
    expect(cannotCheckOut(THERE, SPAN, at(5))).toBeNull();
    const left = { ...THERE, leftAt: at(20) };
    expect(cannotCheckOut(left, SPAN, at(30))).toBe('left-already');
    expect(cannotCheckIn(left, SPAN, at(30))).toBeNull();
    expect(cannotCheckOut(THERE, SPAN, at(60))).toBe('over');
  });

  it('is waited for as long as the grace time, of which its holder hears before', () => {
    expect(givenUpAt(SPAN, 15)).toBe(at(15));
    expect(warnedAt(SPAN, 15)).toBe(at(10));
    // A short grace time: told at its beginning. A short booking: no longer than it lasts.
    expect(warnedAt(SPAN, 3)).toBe(TEN);
    expect(givenUpAt({ start: TEN, end: at(10) }, 15)).toBe(at(10));
    expect(warnedAt({ start: TEN, end: at(10) }, 15)).toBe(at(5));
  });

  it('leaves the rest to others, until the booking is moved', () => {
    expect(timeKept(SPAN, null)).toEqual(SPAN);
    expect(timeKept(SPAN, at(20))).toEqual({ start: TEN, end: at(20) });
    expect(timeKept({ start: at(120), end: at(180) }, at(20))).toEqual({
      start: at(120),
      end: at(180),
    });
  });
});

describe('what a reservation is', () => {
  const stays = { isPart: true, isLater: false };
  it('is held where nobody has to agree, and asked for where somebody has', () => {
    expect(stateAfter(null, { ...stays, agreed: true })).toBe('held');
    expect(stateAfter(null, { ...stays, agreed: false })).toBe('requested');
    // What was cancelled and is put on again is asked for anew.
    expect(stateAfter({ ...HELD, state: 'released' }, { ...stays, agreed: false })).toBe(
      'requested',
    );
  });

  it('stays agreed to within its time, and is asked for anew at another', () => {
    expect(stateAfter(HELD, { ...stays, agreed: false })).toBe('held');
    expect(stateAfter(HELD, { isPart: false, isLater: false, agreed: false })).toBe('requested');
    expect(stateAfter({ ...HELD, state: 'requested' }, { ...stays, agreed: false })).toBe(
      'requested',
    );
    // A steward who changes it agrees to it.
    expect(stateAfter({ ...HELD, state: 'requested' }, { ...stays, agreed: true })).toBe('held');
  });

  it('goes on while somebody is there, as long as it does not begin at another time', () => {
    expect(stateAfter(THERE, { isPart: false, isLater: false, agreed: true })).toBe('in-use');
    expect(stateAfter(THERE, { isPart: false, isLater: true, agreed: true })).toBe('held');
  });

  it('waits two days for an answer, and no longer than until it begins', () => {
    expect(decidedBy(SPAN, TEN - 100 * HOUR)).toBe(TEN - 52 * HOUR);
    expect(decidedBy(SPAN, TEN - 3 * HOUR)).toBe(TEN);
  });
});
