import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { fitOf, type Fit } from '../../core/planner/fit.ts';
import type { Opening } from '../../core/planner/openings.ts';
import { usualLead, type Wishes } from '../../core/planner/wishes.ts';
import { contains, MINUTE, overlaps, type Interval } from '../../core/time/interval.ts';
import { addDays, dateAt, startOfDay } from '../../core/time/wall.ts';
import { calendarItems, useMe, useNow } from '../client/index.ts';
import { usePlanner } from '../workers/index.ts';
import { required, type LineUpEntry } from './address.ts';
import { useLineUpData, type Member } from './useLineUpData.ts';

const QUARTER = 15 * MINUTE;
const LONGEST_MINUTES = 1440;
const MOST_BETTER = 4;
/** Of so many people the names of what they have on are asked for. */
const MOST_NAMED = 20;

/** Who and what a meeting in the making needs, how its time suits them, and what would be better. */
export interface Gathering {
  /** Me first, then the others in their order. */
  members: readonly Member[];
  /** How the time suits each, by their number; empty while there is no time or it is being read. */
  fits: ReadonlyMap<number, Fit>;
  /** What stands in the way of each, as far as its name may be seen. */
  clashes: ReadonlyMap<number, string>;
  rooms: ReturnType<typeof useLineUpData>['data']['rooms'];
  /** Better starts on the day and the next; null while they are being looked for. */
  better: readonly Opening[] | null;
  reading: boolean;
  error: unknown;
  retry: () => void;
  /** Reads everybody's time again; see `useLineUpData`. */
  readAgain: ReturnType<typeof useLineUpData>['readAgain'];
}

/**
 * Holds a meeting that is being made against everybody's time.
 * @param lineUp whom and what it needs besides me
 * @param span its time; null where what is typed is none
 * @param date the day in view, `YYYY-MM-DD`
 * @param present the meeting that is being changed, whose own time is nobody's hindrance
 */
export function useGathering(
  lineUp: readonly LineUpEntry[],
  span: Interval | null,
  date: string,
  present: Parameters<typeof useLineUpData>[3] = null,
): Gathering {
  const me = useMe();
  const now = useNow();
  const all = useMemo(
    () => [required(me.id), ...lineUp.filter((one) => one.id !== me.id)],
    [lineUp, me.id],
  );
  const lead = usualLead(all.length - 1) * MINUTE;
  // A quarter hour's step, so that not every tick of the clock is a question of its own.
  const asOf = Math.floor(now / QUARTER) * QUARTER;
  const startable = Math.ceil((now + lead) / QUARTER) * QUARTER;
  const window = useMemo<Interval>(
    () => ({ start: startOfDay(date, me.zone), end: startOfDay(addDays(date, 2), me.zone) }),
    [date, me.zone],
  );
  const known = useMemo<Interval>(
    () => ({
      start: Math.min(window.start, span?.start ?? window.start),
      end: Math.max(window.end, span?.end ?? window.end),
    }),
    [window, span?.start, span?.end],
  );
  const { data, read, error, retry, readAgain } = useLineUpData(all, known, me.zone, present);
  const members = useMemo<Member[]>(() => {
    const byId = new Map(data.members.map((one) => [one.id, one]));
    return all.flatMap(({ id, role, setAside }) => {
      const member = byId.get(id);
      return member ? [{ ...member, role, setAside }] : [];
    });
  }, [all, data.members]);
  const reading = read === null || !contains(read, known);
  const fits = useMemo(
    () => new Map(span && !reading ? fitOf(members, span).map((fit) => [fit.id, fit]) : []),
    [members, span, reading],
  );
  const lengthMinutes = span
    ? Math.min(Math.max(Math.round((span.end - span.start) / MINUTE), 5), LONGEST_MINUTES)
    : 30;
  const question = useMemo(
    () => ({
      lineUp: all,
      wishes: {
        ...PLAIN_WISHES,
        askerId: me.id,
        window,
        notBefore: startable,
        now: asOf,
        lengthMinutes,
        zone: me.zone,
      } satisfies Wishes,
    }),
    [all, window, startable, asOf, lengthMinutes, me.id, me.zone],
  );
  const { computed } = usePlanner(data, question, null);
  return {
    members,
    fits,
    clashes: useClashes(members, span),
    rooms: data.rooms,
    better: reading ? null : (computed?.openings.best ?? null),
    reading,
    error,
    retry,
    readAgain,
  };
}

const PLAIN_WISHES = {
  stepMinutes: 15,
  rule: 'required',
  places: 'listed',
  rooms: { features: [], text: '', without: [] },
  stretchMinutes: 60,
  stretches: {},
  tentativeIsFree: false,
  unknown: 'ignored',
  leastBad: false,
  limit: MOST_BETTER,
} satisfies Partial<Wishes>;

/** The titles of what overlaps a time, by whose it is; what is not shared stays without one. */
function useClashes(
  members: readonly Member[],
  span: Interval | null,
): ReadonlyMap<number, string> {
  const me = useMe();
  const ids = members
    .flatMap((one) => (one.kind === 'person' && !one.outside && one.id !== me.id ? [one.id] : []))
    .slice(0, MOST_NAMED)
    .sort((a, b) => a - b);
  const day = span && dateAt(span.start, me.zone);
  const from = day ? startOfDay(day, me.zone) : 0;
  const to = span ? Math.max(span.end, startOfDay(addDays(day!, 1), me.zone)) : 1;
  const query = useQuery({
    ...calendarItems({ start: from, end: to }, ids),
    enabled: span !== null,
  });
  return useMemo(() => {
    const found = new Map<number, string>();
    if (!span || !query.data) return found;
    const titled = (items: readonly { title: string | null; start: number; end: number }[]) =>
      items.find((item) => item.title !== null && overlaps(item, span))?.title;
    const mine = query.data.items.filter((item) => item.occupancy !== 'free');
    const own = titled(mine);
    if (own) found.set(me.id, own);
    for (const { id, items } of query.data.subjects) {
      const title = titled(items.filter((item) => item.occupancy !== 'free'));
      if (title) found.set(id, title);
    }
    return found;
  }, [query.data, span, me.id]);
}
