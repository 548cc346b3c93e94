import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useCallback, useMemo } from 'react';
import { useSearchParams } from 'react-router';
import type { BusyResponse, SubjectBusy } from '../../contract/availability.ts';
import type { LineUpMember, Wishes } from '../../core/planner/lineUp.ts';
import { MINUTE, type Interval } from '../../core/time/interval.ts';
import { addDays, dateAt, isDate, startOfDay, weekdayOf } from '../../core/time/wall.ts';
import { sendApi } from '../app/api.ts';
import { useMe, useNow } from '../app/session.ts';
import { readLineUp, writeLineUp, type Asked } from './address.ts';

const DAYS = 10;
const QUARTER = 15 * MINUTE;

export type Member = LineUpMember & Pick<SubjectBusy, 'detail' | 'seats' | 'email'>;

/** The next working days (Monday to Friday) from a date on, itself included. */
function workingDays(from: string): string[] {
  const days: string[] = [];
  for (let date = from; days.length < DAYS; date = addDays(date, 1))
    if (weekdayOf(date) <= 5) days.push(date);
  return days;
}

/** The plan in the address, the busy times it needs, and what the planner is asked. */
export function usePlan() {
  const me = useMe();
  const now = useNow();
  const [params, setParams] = useSearchParams();
  const today = dateAt(now, me.zone);
  const fromParam = params.get('from');
  const from = fromParam && isDate(fromParam) ? fromParam : today;
  const minutes = Math.min(Math.max(Number(params.get('minutes')) || 60, 5), 1440);
  const rule: Wishes['rule'] = params.get('rule') === 'everyone' ? 'everyone' : 'required';
  const stretchMinutes = Math.min(Math.max(Number(params.get('stretch') ?? 60) || 0, 0), 720);
  const tentativeIsFree = params.get('tentative') === 'free';
  const withText = params.get('with');
  const at = Number(params.get('at')) || null;
  const lineUp = useMemo(() => {
    const asked = readLineUp(withText);
    return asked.some((one) => one.id === me.id)
      ? asked
      : [{ id: me.id, role: 'required' as const, setAside: false }, ...asked];
  }, [withText, me.id]);

  const dates = useMemo(() => workingDays(from), [from]);
  const window = useMemo<Interval>(
    () => ({
      start: startOfDay(dates[0]!, me.zone),
      end: startOfDay(addDays(dates[DAYS - 1]!, 1), me.zone),
    }),
    [dates, me.zone],
  );
  const ids = lineUp.map((one) => one.id);
  const query = useQuery({
    queryKey: ['calendar', 'busy', ids.join(), window.start, window.end],
    queryFn: () =>
      sendApi<BusyResponse>('POST', '/availability/busy', {
        subjects: ids,
        from: window.start,
        to: window.end,
      }),
    placeholderData: keepPreviousData,
  });

  const members = useMemo<Member[]>(() => {
    const known = new Map(query.data?.subjects.map((subject) => [subject.id, subject]));
    return lineUp.flatMap(({ id, role, setAside }) => {
      const subject = known.get(id);
      if (!subject) return [];
      const busy = subject.busy.map(([start, end, occupancy]) => ({ start, end, occupancy }));
      return [{ ...subject, role, setAside, busy }];
    });
  }, [lineUp, query.data]);

  const startable = Math.ceil(now / QUARTER) * QUARTER;
  const wishes = useMemo<Wishes>(
    () => ({
      window,
      notBefore: startable,
      lengthMinutes: minutes,
      stepMinutes: 15,
      rule,
      stretchMinutes,
      tentativeIsFree,
      zone: me.zone,
      limit: 8,
    }),
    [window, startable, minutes, rule, stretchMinutes, tentativeIsFree, me.zone],
  );

  const set = useCallback(
    (changes: Record<string, string | number | null>) =>
      setParams(
        (before) => {
          const after = new URLSearchParams(before);
          for (const [name, value] of Object.entries(changes)) {
            if (value === null) after.delete(name);
            else after.set(name, String(value));
          }
          return after;
        },
        { replace: true },
      ),
    [setParams],
  );
  const setLineUp = useCallback(
    (next: readonly Asked[]) => set({ with: writeLineUp(next) }),
    [set],
  );
  const choose = useCallback(
    (span: Interval) =>
      set({ at: span.start, minutes: Math.round((span.end - span.start) / MINUTE) }),
    [set],
  );
  const chosen: Interval | null = at ? { start: at, end: at + minutes * MINUTE } : null;

  return {
    me,
    now,
    query,
    lineUp,
    members,
    wishes,
    dates,
    window,
    minutes,
    chosen,
    set,
    setLineUp,
    choose,
    from,
  };
}

export type Plan = ReturnType<typeof usePlan>;
