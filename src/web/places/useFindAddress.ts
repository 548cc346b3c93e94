import { RESOURCE_KINDS, type ResourceKind } from '../../contract/resourceKind.ts';
import { type FindAsked } from '../../contract/places.ts';
import { ANY_TIME } from '../../core/booking/finding.ts';
import { dateAt, isDate } from '../../core/time/wall.ts';
import { useMe, useNow, useAddressQuery } from '../client/index.ts';

/** From when to when a day is looked through unless somebody says otherwise. Minutes after midnight. */
export const WHOLE_DAY = { from: ANY_TIME.from, to: ANY_TIME.to };

const whole = (text: string | null, least: number, most: number): number | null => {
  const read = text === null || text === '' ? NaN : Number(text);
  return Number.isInteger(read) && read >= least && read <= most ? read : null;
};

/** What is looked for, as the address says it, so that a reload, Back and a shared link find it again. */
export function useFindAddress() {
  const me = useMe();
  const today = dateAt(useNow(), me.zone);
  const [params, setParams] = useAddressQuery();
  const change = (changes: Record<string, string | number | null>, replace = false) =>
    setParams(
      (before) => {
        const after = new URLSearchParams(before);
        for (const [name, value] of Object.entries(changes))
          if (value === null || value === '') after.delete(name);
          else after.set(name, String(value));
        return after;
      },
      { replace },
    );
  const date = params.get('date') ?? '';
  const kind = RESOURCE_KINDS.find((one) => one === params.get('kind')) ?? 'room';
  const from = whole(params.get('from'), 0, 1439) ?? WHOLE_DAY.from;
  const given = whole(params.get('to'), 1, from + 1440) ?? WHOLE_DAY.to;
  const to = given > from ? given : Math.min(1440, from + 60);
  const minutes = whole(params.get('minutes'), 5, 1440) ?? usualMinutes(kind);
  const shown = {
    kind,
    date: isDate(date) ? date : today,
    today,
    from,
    to,
    /** Null is all of the time between. */
    minutes: params.get('minutes') === 'all' || minutes > to - from ? null : minutes,
    /** Null is every site; unless said, it is one's own. */
    site:
      params.get('site') === 'all'
        ? null
        : (whole(params.get('site'), 1, 2 ** 31 - 1) ?? me.siteId),
    floor: params.get('floor')?.slice(0, 40) ?? null,
    seats: whole(params.get('seats'), 1, 10_000) ?? 1,
    features: (params.get('with') ?? '').split(',').filter(Boolean).slice(0, 20),
    text: (params.get('q') ?? '').slice(0, 100),
    near: (params.get('near') ?? '')
      .split(',')
      .map(Number)
      .filter((one) => Number.isInteger(one) && one > 0)
      .slice(0, 20),
  };
  const query: FindAsked = {
    kind: shown.kind,
    date: shown.date,
    from,
    to,
    ...(shown.minutes !== null && { minutes: shown.minutes }),
    ...(shown.site !== null && { site: shown.site }),
    ...(shown.floor !== null && { floor: shown.floor }),
    ...(shown.seats > 1 && { seats: shown.seats }),
    ...(shown.features.length > 0 && { with: shown.features.join(',') }),
    ...(shown.text && { q: shown.text }),
    ...(shown.near.length > 0 && { near: shown.near.join(',') }),
  };
  const isNarrowed = ['from', 'to', 'minutes', 'floor', 'seats', 'with', 'near'].some((name) =>
    params.has(name),
  );
  return { ...shown, query, isNarrowed, change };
}
export type FindAddress = ReturnType<typeof useFindAddress>;

/** How long somebody mostly has something of a kind: a desk for the day, a room for an hour. */
const usualMinutes = (kind: ResourceKind): number =>
  kind === 'room' || kind === 'lab' ? 60 : WHOLE_DAY.to - WHOLE_DAY.from - 120;
