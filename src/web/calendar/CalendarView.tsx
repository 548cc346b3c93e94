import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useSearchParams } from 'react-router';
import type { CalendarItem } from '../../contract/events.ts';
import { formatDay } from '../../core/time/format.ts';
import { HOUR, type Interval } from '../../core/time/interval.ts';
import { addDays, dateAt, isDate, startOfDay, startOfWeek } from '../../core/time/wall.ts';
import { readApi } from '../app/api.ts';
import { useMe, useNow } from '../app/session.ts';
import { Button, TextInput } from '../design/controls.tsx';
import { Failure } from '../design/states.tsx';
import { EventPanel, NewEventPanel } from './EventPanel.tsx';
import { SeasonStrip } from './SeasonStrip.tsx';
import { usePhone } from './usePhone.ts';
import { WeekGrid } from './WeekGrid.tsx';

/** What does my time look like? A week in my zone (on a phone, three days), moved through by the season strip. */
export function CalendarView() {
  const me = useMe();
  const now = useNow();
  const phone = usePhone();
  const [params, setParams] = useSearchParams();
  const [picked, setPicked] = useState<(Interval & { allDay: boolean }) | null>(null);
  const today = dateAt(now, me.zone);
  const asked = params.get('date');
  const date = asked && isDate(asked) ? asked : today;
  const monday = startOfWeek(date);
  const first = phone ? date : monday;
  const dates = Array.from({ length: phone ? 3 : 7 }, (_, k) => addDays(first, k));
  const step = phone ? 3 : 7;
  const from = startOfDay(first, me.zone);
  const to = startOfDay(addDays(first, step), me.zone);
  const openId = params.get('event');

  const query = useQuery({
    queryKey: ['calendar', from, to],
    queryFn: () => readApi<{ items: CalendarItem[] }>(`/events?from=${from}&to=${to}`),
    placeholderData: keepPreviousData,
  });
  const go = (next: string) => setParams({ date: next });
  const open = (id: string | null) =>
    setParams((before) => {
      const after = new URLSearchParams(before);
      if (id) after.set('event', id);
      else after.delete('event');
      return after;
    });

  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.target !== document.body || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === 'ArrowLeft') setParams({ date: addDays(first, -step) });
      if (event.key === 'ArrowRight') setParams({ date: addDays(first, step) });
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [first, step, setParams]);

  return (
    <main className="flex min-h-[480px] flex-1 flex-col">
      <SeasonStrip monday={monday} thisMonday={startOfWeek(today)} onChoose={go} />
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1.5 px-4 py-2 md:px-6">
        <h1 className="mr-auto text-xl">
          {formatDay(from, me.zone)} – {formatDay(to - HOUR, me.zone)} {date.slice(0, 4)}
        </h1>
        <Button onClick={() => go(addDays(first, -step))}>Earlier</Button>
        <Button onClick={() => go(today)} disabled={dates.includes(today)}>
          Today
        </Button>
        <Button onClick={() => go(addDays(first, step))}>Later</Button>
        <TextInput
          type="date"
          aria-label="Go to a day"
          className="w-36"
          value={date}
          onChange={(event) => isDate(event.target.value) && go(event.target.value)}
        />
        <Button look="act" onClick={() => setPicked({ ...nextHour(now), allDay: false })}>
          New event
        </Button>
      </div>
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      <WeekGrid
        key={dates.length}
        dates={dates}
        items={query.data?.items ?? []}
        onPick={(span) => setPicked({ ...span, allDay: false })}
        onOpen={(item) => open(item.eventId)}
      />
      {picked && <NewEventPanel {...picked} onClose={() => setPicked(null)} />}
      {openId && <EventPanel eventId={openId} onClose={() => open(null)} />}
    </main>
  );
}

const nextHour = (now: number): Interval => {
  const start = Math.ceil(now / HOUR) * HOUR;
  return { start, end: start + HOUR };
};
