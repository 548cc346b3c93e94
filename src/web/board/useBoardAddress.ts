import { RESOURCE_KINDS, type ResourceKind } from '../../contract/resourceKind.ts';
import { useState } from 'react';
import { useLocation, useNavigationType } from 'react-router';

import type { PlaceWishes } from '../../core/booking/wishes.ts';
import { MINUTE, type Interval } from '../../core/time/interval.ts';
import { same } from '../../core/same.ts';
import { dateAt, isDate } from '../../core/time/wall.ts';
import { useMe, useNow, useAddressQuery } from '../client/index.ts';

/** A time, and the places that are to be booked then. */
export interface Pick {
  span: Interval;
  places: readonly number[];
}

const MOST_PICKED = 20;
const USUAL_KINDS: ResourceKind[] = ['room', 'lab'];

const numbers = (text: string | null): number[] =>
  (text ?? '')
    .split(',')
    .map(Number)
    .filter((one) => Number.isSafeInteger(one) && one > 0);

/** What a board shows, as its address says it, so that a reload, Back and a shared link find it again. */
export function useBoardAddress() {
  const me = useMe();
  const now = useNow();
  const [params, setParams] = useAddressQuery();
  const given = params.get('date') ?? '';
  const kinds = (params.get('kind')?.split(',') ?? []).filter((one): one is ResourceKind =>
    (RESOURCE_KINDS as readonly string[]).includes(one),
  );
  const site = params.get('site');
  const place = numbers(params.get('place'))[0] ?? null;
  const days = Number(params.get('days'));
  const [start, end] = numbers(params.get('at')?.replace('-', ',') ?? null);
  const picked = [...new Set(numbers(params.get('in')))].slice(0, MOST_PICKED);
  const wishes: PlaceWishes = {
    seats: Math.max(1, Math.min(1000, numbers(params.get('seats'))[0] ?? 1)),
    features: params.get('with')?.split(',').filter(Boolean).slice(0, 20) ?? [],
    floor: params.get('floor')?.slice(0, 40) || null,
    text: (params.get('q') ?? '').slice(0, 100),
  };
  const change = (changes: Record<string, string | null>, replace = false) =>
    setParams(
      (before) => {
        const after = new URLSearchParams(before);
        for (const [name, value] of Object.entries(changes))
          if (value === null || value === '') after.delete(name);
          else after.set(name, value);
        return after;
      },
      { replace },
    );
  const written: Pick | null =
    start && end && start < end && end - start <= 31 * 1440 * MINUTE && picked.length > 0
      ? { span: { start, end }, places: picked }
      : null;
  // The address follows what is picked in its own time, and however fast that changes nothing is lost.
  const [held, setHeld] = useState<{ pick: Pick | null; at: string } | null>(null);
  const { key } = useLocation();
  const isByBack = useNavigationType() === 'POP';
  const isOnItsWay = held !== null && !same(held.pick, written) && (key === held.at || !isByBack);
  const pick = isOnItsWay ? held.pick : written;
  return {
    date: isDate(given) ? given : dateAt(now, me.zone),
    kinds: kinds.length > 0 ? kinds : USUAL_KINDS,
    /** Null is every site. */
    siteId: site === 'all' ? null : (numbers(site)[0] ?? me.siteId),
    place,
    days: place !== null && (days === 7 || days === 14) ? days : place !== null ? 7 : 1,
    wishes,
    isWholeDay: params.get('hours') === 'all',
    pick,
    event: params.get('event'),
    occurrence: params.get('on'),
    change,
    setPick: (next: Pick | null, replace = pick !== null) => {
      setHeld({ pick: next, at: key });
      change(
        next
          ? {
              at: `${next.span.start}-${next.span.end}`,
              in: next.places.join(','),
              event: null,
              on: null,
            }
          : { at: null, in: null },
        replace,
      );
    },
  };
}

export type BoardAddress = ReturnType<typeof useBoardAddress>;
