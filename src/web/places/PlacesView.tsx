import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import type { Place, PlacesResponse } from '../../contract/places.ts';
import { formatDay, formatTime } from '../../core/time/format.ts';
import { dateAt } from '../../core/time/wall.ts';
import { Failure, readApi, useMe, useNow, useShown } from '../app/index.ts';
import { TextInput } from '../design/controls.tsx';
import { Select } from '../design/Select.tsx';
import { Tick } from '../design/ticks.tsx';
import { Panel } from '../design/Panel.tsx';
import { Empty, Loading } from '../design/states.tsx';
import { placeFacts } from './facts.ts';
import { PlacePanel } from './PlacePanel.tsx';

const KINDS: [Place['kind'], string][] = [
  ['room', 'Rooms'],
  ['lab', 'Labs'],
  ['desk', 'Desks'],
  ['equipment', 'Equipment'],
  ['vehicle', 'Vehicles'],
  ['parking', 'Parking'],
];

/** What is free, until when, and where: one kind of resource by site, each opening into its day. */
export function PlacesView() {
  const me = useMe();
  const [params, setParams] = useSearchParams();
  const [text, setText] = useState('');
  const [onlyFree, setOnlyFree] = useState(false);
  useShown(['resource:all']);
  const query = useQuery({
    queryKey: ['places'],
    queryFn: () => readApi<PlacesResponse>('/places'),
    refetchInterval: 60_000,
  });
  const openId = Number(params.get('open')) || null;
  const opened = query.data?.places.find((place) => place.id === openId);
  const kind = (params.get('kind') as Place['kind'] | null) ?? opened?.kind ?? 'room';
  const set = (name: string, value: string | null) =>
    setParams((before) => {
      const after = new URLSearchParams(before);
      if (value) after.set(name, value);
      else after.delete(name);
      return after;
    });
  const wanted = text.trim().toLowerCase();
  const shown = (query.data?.places ?? []).filter(
    (place) =>
      place.kind === kind &&
      (!onlyFree || place.freeUnits > 0) &&
      [place.name, place.site, ...place.features].some((field) =>
        field.toLowerCase().includes(wanted),
      ),
  );
  // The reader's own site first.
  const sites = [...new Set(shown.map((place) => place.site))].sort(
    (a, b) => Number(b === me.siteName) - Number(a === me.siteName),
  );
  const free = shown.filter((place) => place.freeUnits > 0).length;
  return (
    <main className="mx-auto w-full max-w-6xl px-4 py-5 md:px-6">
      <div className="mb-5 flex flex-wrap items-end gap-3">
        <h1 className="mr-auto text-[26px]">
          Places{' '}
          <span className="text-base font-normal text-ink-2">
            {query.data && `${free} of ${shown.length} free now`}
          </span>
        </h1>
        <Tick label="Free now" on={onlyFree} onChange={setOnlyFree} />
        <Select
          question="Kind"
          className="w-44"
          value={kind}
          onChange={(next) => set('kind', next)}
          options={KINDS.map(([value, words]) => ({ value, words }))}
        />
        <TextInput
          type="search"
          aria-label="Name, site or feature"
          placeholder="Name, site or feature"
          className="w-56 max-w-full"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </div>
      {query.isPending && <Loading what="places" />}
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      {query.data && shown.length === 0 && (
        <Empty title="Nothing matches all of this">
          Untick “Free now” or shorten what you typed.
        </Empty>
      )}
      {sites.map((site) => (
        <section key={site} className="mb-7">
          <h2 className="mb-1.5 text-[15px]">{site}</h2>
          <ul className="grid gap-2 sm:grid-cols-2 lg:grid-cols-3">
            {shown
              .filter((place) => place.site === site)
              .map((place) => (
                <PlaceCard
                  key={place.id}
                  place={place}
                  onOpen={() => set('open', String(place.id))}
                />
              ))}
          </ul>
        </section>
      ))}
      <Panel open={!!opened} onClose={() => set('open', null)} title={opened?.name ?? ''}>
        {opened && <PlacePanel key={opened.id} place={opened} />}
      </Panel>
    </main>
  );
}

function PlaceCard({ place, onOpen }: { place: Place; onOpen: () => void }) {
  const facts = placeFacts(place);
  return (
    <li>
      <button
        type="button"
        onClick={onOpen}
        className="flex h-full w-full items-stretch gap-3 rounded-sm border border-edge bg-sheet text-left hover:border-ink-2"
      >
        <span
          aria-hidden="true"
          className={`w-2.5 shrink-0 rounded-l-sm ${place.freeUnits > 0 ? 'bg-lichen' : 'rock'}`}
        />
        <span className="min-w-0 py-2 pr-3">
          <span className="font-semibold">{place.name}</span>
          <span className="block font-medium">{useStateWords(place)}</span>
          <span className="block truncate text-xs text-ink-2">{facts.join(', ')}</span>
        </span>
      </button>
    </li>
  );
}

function useStateWords(place: Place): string {
  const me = useMe();
  const now = useNow();
  const until =
    place.until === null
      ? ''
      : dateAt(place.until, me.zone) === dateAt(now, me.zone)
        ? ` until ${formatTime(place.until, me.zone, me.clock)}`
        : ` until ${formatDay(place.until, me.zone)} ${formatTime(place.until, me.zone, me.clock)}`;
  if (place.freeUnits > 0) {
    const count = place.units > 1 ? `${place.freeUnits} of ${place.units} free` : 'Free';
    return `${count}${until || ' all week'}`;
  }
  return `Taken${until}${place.holder ? `, ${place.holder}` : ''}`;
}
