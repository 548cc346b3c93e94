import { useEffect, useMemo, useState } from 'react';
import { contains, HOUR, MINUTE } from '../../core/time/interval.ts';
import { addDays, dateAt, resolveWallTime, startOfDay } from '../../core/time/wall.ts';
import {
  Failure,
  useAddressQuery,
  useChangePreferences,
  useMe,
  useNow,
  usePreferences,
} from '../client/index.ts';
import { AboveTheView } from '../design/Above.tsx';
import { Button } from '../design/controls.tsx';
import { Switch } from '../design/ticks.tsx';
import { AgendaView } from './AgendaView.tsx';
import { EventPanel, NewEventPanel } from '../events/index.ts';
import type { Layer } from '../../contract/calendar.ts';
import {
  CategoriesProvider,
  HoursGrid,
  LAYER_ROCK,
  lanesOf,
  type GridItem,
  type Held,
} from '../grid/index.ts';
import { fits, fitsOfOthers, FILTER_KEYS, isFiltering, readFilter } from './filter.ts';
import { Foot } from './Foot.tsx';
import { FilterBar, FoundList } from './FilterBar.tsx';
import { AddLayer, ArrangementWord, LayerChip, MeChip } from './LayerChips.tsx';
import { MonthView } from './MonthView.tsx';
import { PhoneTools } from './PhoneTools.tsx';
import { briefTitle, periodTitle, readPeriod, stepFrom } from './period.ts';
import { useCategories } from '../preferences/index.ts';
import { RowsView } from './RowsView.tsx';

import { OneLine, type LinePart } from './OneLine.tsx';
import { JumpField, Steps, ViewChoice, ViewWord } from './Toolbar.tsx';
import { SeasonStrip, useHolidays } from '../time/index.ts';
import { useCalendar } from './useCalendar.ts';
import { usePicked } from './usePicked.ts';
import { useLayers } from './useLayers.ts';
import { usePhone } from '../design/usePhone.ts';
import { DayField } from '../time/index.ts';
import { YearView } from './YearView.tsx';
import { AnswersInBlock } from '../invitations/index.ts';
import { AskDialog, useMove } from '../meetings/index.ts';

/** What does my time look like, and theirs? Everything shown is in the address. */
export const CalendarView = () => (
  <CategoriesProvider categories={useCategories()}>
    <Calendar />
  </CategoriesProvider>
);

function Calendar() {
  const me = useMe();
  const now = useNow();
  const phone = usePhone();
  const preferences = usePreferences();
  const changePreferences = useChangePreferences();
  const [params, setParams] = useAddressQuery();
  const [picked, setPicked, closePicked] = usePicked();
  const [wholeDay, setWholeDay] = useState(false);
  const layers = useLayers();
  const { move, question, closeQuestion } = useMove();

  const today = dateAt(now, me.zone);
  const workingDays = preferences.hours.flatMap((shifts, k) => (shifts.length ? [k + 1] : []));
  const period = readPeriod(params, {
    firstWeekday: preferences.firstWeekday,
    workingDays,
    today,
    phone,
  });
  const { kind, date } = period;
  const datesKey = period.dates.join();
  // eslint-disable-next-line react-hooks/exhaustive-deps -- the same dates stay the same list
  const dates = useMemo(() => period.dates, [datesKey]);
  const from = startOfDay(dates[0]!, me.zone);
  const to = startOfDay(addDays(dates.at(-1)!, 1), me.zone);
  const filter = readFilter(params);
  const searching = params.get('search') !== null || isFiltering(filter);
  const everywhere = params.get('search') === 'all';
  const isMeOff = params.get('me') === 'off';

  const shown = layers.layers.filter((layer) => layer.shown);
  const query = useCalendar(from, to, shown, {
    enabled: kind !== 'year',
    declined: filter.reply === 'declined',
  });
  // Days that are not read yet are not empty.
  const isRead = query.data !== undefined && contains(query.data.read, { start: from, end: to });
  const holidays = useHolidays(dates[0]!, dates.at(-1)!);
  const filterKey = FILTER_KEYS.map((key) => filter[key]).join('|');
  const lanes = useMemo(
    () =>
      lanesOf(
        { items: [], subjects: [], ...query.data, ...(isMeOff && { items: [] }) },
        shown,
        (item) => fits(item, filter),
        (item) => fitsOfOthers(item, filter),
      ),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- told by their content
    [query.data, layers.layers, filterKey, isMeOff],
  );
  const notes = new Map(
    shown.flatMap((layer) => {
      const reasons = new Set(
        (query.data?.subjects ?? [])
          .filter((one) => layer.subjectIds.includes(one.id))
          .map((one) =>
            one.knowledge === 'none' ? 'shares nothing' : one.reason ? 'busy times only' : '',
          ),
      );
      const note = [...reasons].filter(Boolean).join(', ');
      return note ? [[layer.id, note] as const] : [];
    }),
  );

  const change = (update: Record<string, string | null>, replace = false) =>
    setParams(
      (after) => {
        for (const [key, value] of Object.entries(update)) {
          if (value === null || value === '') after.delete(key);
          else after.set(key, value);
        }
        return after;
      },
      { replace, state: window.history.state?.usr as unknown },
    );
  const goTo = (next: string) => change({ date: next, event: null, on: null });
  const open = (item: GridItem) => change({ event: item.eventId, on: item.recurrenceId });
  /** Something new; begun over somebody's time, it is one with them. */
  const pick = (held: Held, over: GridItem | null = null) =>
    setPicked({
      ...held,
      end: held.end > held.start ? held.end : held.start + preferences.defaultMinutes * MINUTE,
      ...(over?.subjectId && { with: over.subjectId }),
    });
  const pickDate = (day: string) => {
    const start = resolveWallTime(`${day}T09:00`, me.zone).instant;
    pick({ start, end: start, allDay: false });
  };
  /** The next hour of today, or the first working hour of the days in view. */
  const pickNext = () =>
    dates.includes(today) ? pick({ ...nextHour(now), allDay: false }) : pickDate(dates[0]!);
  const openDay = (day: string) => change({ view: 'day', date: day });

  const step = stepFrom(period, 1);
  const back = stepFrom(period, -1);
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      const isNowhere = target === document.body || target.id === 'view';
      if (!isNowhere || event.ctrlKey || event.metaKey || event.altKey) return;
      const next = { ArrowLeft: back, ArrowRight: step }[event.key];
      if (next)
        setParams(
          (after) => {
            after.set('date', next);
            return after;
          },
          { state: window.history.state?.usr as unknown },
        );
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [back, step, setParams]);

  const hours = kind === 'day' || kind === 'days' || kind === 'work' || kind === 'week';
  const arrangement = shown.length > 0 ? preferences.arrangement : 'over';
  const openId = params.get('event');
  const isToday = kind !== 'year' && kind !== 'month' && dates[0] === today;
  const strip = <SeasonStrip date={date} dates={dates} today={today} onChoose={goTo} />;
  const views = phone && (
    <ViewChoice
      period={period}
      onView={(view) => change({ view })}
      onDays={(days) => change({ view: 'days', days: `${days}` })}
    />
  );
  const search = (
    <Button
      look="quiet"
      aria-pressed={searching}
      className="justify-self-start"
      onClick={() => change(searching ? noFilter() : { search: 'here' })}
    >
      Search
    </Button>
  );
  const arrange = (
    <ArrangementWord
      arrangement={preferences.arrangement}
      onArrange={(next) => void changePreferences({ arrangement: next })}
    />
  );
  const meChip = (
    <MeChip isOn={!isMeOff} onChange={(on) => change({ me: on ? null : 'off' }, true)} />
  );
  const layerChip = (layer: Layer) => {
    const at = shown.indexOf(layer);
    const isLane = hours && arrangement === 'over' && shown.length <= LAYER_ROCK.length;
    const rock = isLane && at >= 0 ? LAYER_ROCK[at]! : null;
    return <LayerChip layer={layer} note={notes.get(layer.id)} rock={rock} actions={layers} />;
  };
  const all24 = (
    <Button look="quiet" aria-pressed={wholeDay} onClick={() => setWholeDay(!wholeDay)}>
      {wholeDay ? 'My hours' : 'All 24 hours'}
    </Button>
  );
  const layersOf = (isPhone: boolean) =>
    kind !== 'year' && (
      <div className="flex flex-wrap items-center gap-1.5" role="group" aria-label="Layers">
        {isPhone && meChip}
        {layers.layers.map((layer) => (
          <span key={layer.id}>{layerChip(layer)}</span>
        ))}
        <AddLayer layers={layers} />
        {shown.length > 0 && arrange}
      </div>
    );
  const line: LinePart[] = [
    {
      key: 'title',
      node: <h1 className="mr-1 text-xl whitespace-nowrap">{periodTitle(period, today)}</h1>,
      leaves: null,
    },
    {
      key: 'steps',
      node: (
        <Steps
          today={today}
          isToday={isToday}
          onDate={goTo}
          onStep={(steps) => goTo(steps === 1 ? step : back)}
        />
      ),
      leaves: null,
    },
    { key: 'day', node: <JumpField date={date} today={today} onDate={goTo} />, leaves: 1 },
    {
      key: 'view',
      node: (
        <ViewWord
          period={period}
          onView={(view) => change({ view })}
          onDays={(days) => change({ view: 'days', days: `${days}` })}
        />
      ),
      leaves: null,
    },
    ...(kind === 'year'
      ? []
      : [
          { key: 'me', node: meChip, leaves: 5 },
          ...layers.layers.map((layer, k) => ({
            key: `layer ${layer.id}`,
            node: layerChip(layer),
            // Of the layers the last goes first.
            leaves: 3 + (layers.layers.length - k) / 1000,
          })),
          { key: 'add', node: <AddLayer layers={layers} />, leaves: 2 },
          ...(shown.length > 0 ? [{ key: 'arrange', node: arrange, leaves: 4 }] : []),
        ]),
    ...(hours ? [{ key: 'hours', node: all24, leaves: 0 }] : []),
    { key: 'search', node: search, leaves: 0.5 },
    {
      key: 'new',
      node: (
        <Button look="act" className="no-print" onClick={pickNext}>
          New event
        </Button>
      ),
      leaves: null,
    },
  ];
  return (
    <main className="flex min-h-[520px] flex-1 flex-col" data-printed>
      {phone ? (
        <>
          <PhoneTools
            title={briefTitle(period)}
            isToday={isToday}
            onStep={(steps) => goTo(steps === 1 ? step : back)}
            onToday={() => goTo(today)}
            onNew={pickNext}
          >
            {views}
            <DayField label="Go to a day" value={date} onChange={goTo} />
            {hours && <Switch label="Show all 24 hours" on={wholeDay} onChange={setWholeDay} />}
            {search}
            {layersOf(true)}
          </PhoneTools>
          {strip}
        </>
      ) : (
        <>
          <AboveTheView>{strip}</AboveTheView>
          <div
            className="flex h-12 items-center px-4 md:px-6"
            role="group"
            aria-label="What is shown"
          >
            <OneLine parts={line} label="More of what is shown" />
          </div>
        </>
      )}
      {searching && (
        <FilterBar
          filter={filter}
          onChange={(part) => change({ ...part, search: everywhere ? 'all' : 'here' }, true)}
          everywhere={everywhere}
          onEverywhere={(all) => change({ search: all ? 'all' : 'here' })}
          onClose={() => change(noFilter())}
        />
      )}
      {isFiltering(filter) &&
        isRead &&
        !everywhere &&
        lanes.every((lane) => lane.items.length === 0) && (
          <p role="status" className="px-4 py-2 font-semibold md:px-6">
            Nothing in these days is like that.{' '}
            <Button look="quiet" onClick={() => change({ search: 'all' })}>
              Look through all my past and future
            </Button>
          </p>
        )}
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      <div className="relative flex min-h-0 flex-1 flex-col" aria-busy={!isRead}>
        {everywhere ? (
          <FoundList filter={filter} onOpen={open} />
        ) : kind === 'year' ? (
          <YearView
            dates={dates}
            onDay={openDay}
            onMonth={(day) => change({ view: 'month', date: day })}
          />
        ) : kind === 'agenda' ? (
          <AgendaView dates={dates} lanes={lanes} holidays={holidays} onOpen={open} />
        ) : kind === 'month' ? (
          <MonthView
            dates={dates}
            month={date.slice(0, 7)}
            lanes={lanes}
            holidays={holidays}
            onPick={pickDate}
            onOpen={open}
            onMove={move}
            onDay={openDay}
          />
        ) : arrangement === 'rows' ? (
          <RowsView
            dates={dates}
            lanes={lanes}
            wholeDay={wholeDay}
            holidays={holidays}
            onPick={pick}
            onOpen={open}
          />
        ) : (
          <HoursGrid
            dates={dates}
            lanes={lanes}
            beside={arrangement === 'beside'}
            wholeDay={wholeDay}
            holidays={holidays}
            onPick={pick}
            onOpen={open}
            onMove={move}
            onMore={openDay}
            follows={openId !== null}
            within={(item) => item.mine && <AnswersInBlock item={item.mine} />}
            foot={(item) => <Foot item={openId ? null : item} onOpen={open} />}
          />
        )}
        {!isRead && !everywhere && kind !== 'year' && (
          <p role="status" className="unread pointer-events-none absolute inset-0 z-10">
            <span className="sr-only">Reading these days …</span>
          </p>
        )}
      </div>
      {picked && !openId && <NewEventPanel key={picked.id} {...picked} onClose={closePicked} />}
      {openId && (
        <EventPanel
          eventId={openId}
          occurrence={params.get('on')}
          onClose={() => change({ event: null, on: null })}
          onCopy={(copyOf) => {
            setPicked({ ...nextHour(now), allDay: false, copyOf });
          }}
        />
      )}
      {question && <AskDialog question={question} onClose={closeQuestion} />}
    </main>
  );
}

const noFilter = (): Record<string, null> =>
  Object.fromEntries([...FILTER_KEYS, 'search'].map((key) => [key, null]));

const nextHour = (now: number) => {
  const start = Math.ceil(now / HOUR) * HOUR;
  return { start, end: start };
};
