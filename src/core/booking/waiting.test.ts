import { describe, expect, it } from 'vitest';
import { HOUR } from '../time/interval.ts';
import { heldUntil, whoGets, type Waiter } from './waiting.ts';

const NINE = Date.UTC(2026, 10, 26, 9);
const waiter = (id: number, from: number, to: number, askedAt = id): Waiter => ({
  id,
  placeId: 1,
  start: NINE + from * HOUR,
  end: NINE + to * HOUR,
  askedAt,
});
const place = (units: number, clearMinutes = 0) =>
  new Map([[1, { units, prepareMinutes: 0, clearMinutes }]]);
const ids = (some: readonly Waiter[]) => some.map((one) => one.id);

describe('those who wait for a place', () => {
  it('have it in the order in which they asked', () => {
    const both = [waiter(1, 0, 2, 20), waiter(2, 1, 3, 10)];
    expect(ids(whoGets(both, place(1), new Map()))).toEqual([2]);
    expect(ids(whoGets(both, place(2), new Map()))).toEqual([2, 1]);
  });

  it('keep nobody from a time that is free while theirs is not', () => {
    const taken = new Map([[1, [{ unit: 1, start: NINE, end: NINE + HOUR }]]]);
    const some = [waiter(1, 0, 2), waiter(2, 1, 3), waiter(3, 4, 5)];
    expect(ids(whoGets(some, place(1), taken))).toEqual([2, 3]);
  });

  it('leave what is kept free around each other', () => {
    const some = [waiter(1, 0, 1), waiter(2, 1, 2), waiter(3, 1.5, 2)];
    expect(ids(whoGets(some, place(1, 30), new Map()))).toEqual([1, 3]);
    expect(whoGets(some, new Map(), new Map())).toEqual([]);
  });

  it('have an hour to take it, and not longer than until it begins', () => {
    expect(heldUntil(waiter(1, 3, 4), NINE)).toBe(NINE + HOUR);
    expect(heldUntil(waiter(1, 0.5, 4), NINE)).toBe(NINE + HOUR / 2);
  });
});
