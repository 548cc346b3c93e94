import { RESOURCE_KINDS, type ResourceKind } from '../../contract/resourceKind.ts';
import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useEffect, useRef, useState } from 'react';
import { type Place, type PlacesResponse } from '../../contract/places.ts';
import { answerTo, Failure, usePages, useShown, useAddressQuery } from '../client/index.ts';
import { AddPlaces } from '../catalogue/index.ts';
import { TextInput } from '../design/controls.tsx';
import { Panel } from '../design/Panel.tsx';
import { Select } from '../design/Select.tsx';
import { Empty, Outline } from '../design/states.tsx';
import { VirtualRows } from '../design/VirtualRows.tsx';
import { KIND_NAMES } from './facts.ts';
import { PlacePanel } from './PlacePanel.tsx';
import { PlaceRow } from './PlaceRow.tsx';
import { PlacesWays } from './PlacesWays.tsx';

const KINDS: { value: ResourceKind | 'all'; words: string }[] = [
  ...RESOURCE_KINDS.map((value) => ({ value, words: KIND_NAMES[value] })),
  { value: 'all', words: 'Everything' },
];
const FREE = [
  { value: false, words: 'free or taken' },
  { value: true, words: 'free now' },
];

const placesOf = (part: PlacesResponse) => part.places;

type Row =
  | { kind: 'site'; name: string }
  | { kind: 'floor'; site: string; floor: string }
  | { kind: 'place'; place: Place };
const keyOf = (row: Row) => {
  if (row.kind === 'place') return row.place.id;
  return row.kind === 'site' ? row.name : `${row.site}, floor ${row.floor}`;
};

/** Places with what they are under: their site, and below it their floor. */
const underHeadings = (places: readonly Place[]): Row[] =>
  places.flatMap((place, k): Row[] => {
    const { site, floor } = place;
    const before = places[k - 1];
    const isNewSite = before?.site !== site;
    return [
      ...(isNewSite ? [{ kind: 'site' as const, name: site }] : []),
      ...(floor !== '' && (isNewSite || before.floor !== floor)
        ? [{ kind: 'floor' as const, site, floor }]
        : []),
      { kind: 'place', place },
    ];
  });

/** What is free, until when, and where: a kind of resource by site and floor, each opening into its day. */
export function PlacesView() {
  const [params, setParams] = useAddressQuery();
  // What is looked for stands in the address, so that a reload, Back and a shared link find it again.
  const looked = params.get('q') ?? '';
  const onlyFree = params.get('free') === 'now';
  const siteId = Number(params.get('site')) || null;
  const floor = siteId === null ? null : params.get('floor');
  // The address follows what is typed in its own time; what is typed is not read back from it.
  const [text, setText] = useState(looked);
  const onItsWay = useRef<string[]>([]);
  useEffect(() => {
    const arrived = onItsWay.current.indexOf(looked);
    if (arrived >= 0) onItsWay.current.splice(0, arrived + 1);
    // What was not typed here came by Back or a link.
    else setText(looked);
  }, [looked]);
  const asked = useDeferredValue(text.trim());
  useShown(['resource:all']);
  const openId = Number(params.get('open')) || null;
  const opened = useQuery({
    ...answerTo('GET /api/places/:id', { params: { id: openId! } }),
    enabled: openId !== null,
  });
  const kind = (params.get('kind') as ResourceKind | 'all' | null) ?? opened.data?.kind ?? 'room';
  const { query, first, rows, more } = usePages(
    'GET /api/places',
    {
      ...(kind !== 'all' && { kind }),
      ...(siteId && { site: siteId }),
      ...(floor && { floor }),
      ...(onlyFree && { free: 'now' as const }),
      ...(asked && { q: asked }),
    },
    placesOf,
    60_000,
  );
  const change = (changes: Record<string, string | null>, replace = false) =>
    setParams(
      (before) => {
        const after = new URLSearchParams(before);
        for (const [name, value] of Object.entries(changes))
          if (value) after.set(name, value);
          else after.delete(name);
        return after;
      },
      { replace },
    );
  const widen = () => change({ site: null, floor: null, free: null, kind: 'all' });
  const listed = underHeadings(rows);
  const floors = [...new Set([...(first?.floors ?? []), ...(floor ? [floor] : [])])];
  return (
    <main className="mx-auto w-full max-w-6xl px-4 py-5 max-sm:py-2 md:px-6">
      <div className="mb-3 flex flex-wrap items-center gap-x-6 gap-y-1 max-sm:mb-1 max-sm:gap-x-3">
        <h1 className="mr-auto text-[26px] max-sm:text-[20px]">
          Places{' '}
          <span className="text-base font-normal text-ink-2">
            {first && `${first.free} of ${onlyFree ? first.free : first.total} free now`}
          </span>
        </h1>
        <span className="order-last max-sm:order-3">
          <PlacesWays at="now" />
        </span>
        <p className="leading-8 max-sm:order-2">
          <Select
            look="word"
            question="Kind"
            value={kind}
            onChange={(next) => change({ kind: next })}
            options={KINDS}
          />{' '}
          at{' '}
          <Select
            look="word"
            question="Site"
            value={siteId}
            onChange={(next) => change({ site: next === null ? null : String(next), floor: null })}
            options={[
              { value: null, words: 'every site' },
              ...(first?.sites ?? []).map((site) => ({ value: site.id, words: site.name })),
            ]}
          />
          ,{' '}
          {siteId !== null && floors.length > 0 && (
            <>
              <Select<string | null>
                look="word"
                question="Floor"
                value={floor}
                onChange={(next) => change({ floor: next })}
                options={[
                  { value: null, words: 'any floor' },
                  ...floors.map((value) => ({ value, words: `floor ${value}` })),
                ]}
              />
              ,{' '}
            </>
          )}
          <Select
            look="word"
            question="Free or taken"
            value={onlyFree}
            onChange={(next) => change({ free: next ? 'now' : null })}
            options={FREE}
          />
        </p>
        <TextInput
          type="search"
          aria-label="Name, site or feature"
          placeholder="Name, site or feature"
          className="w-56 max-sm:order-1 max-sm:w-36"
          maxLength={100}
          value={text}
          onKeyDown={(event) => {
            // What is nowhere here is looked for everywhere.
            if (event.key === 'Enter' && first && rows.length === 0) widen();
          }}
          onChange={({ target: { value } }) => {
            setText(value);
            if (value !== looked || onItsWay.current.length > 0) onItsWay.current.push(value);
            change({ q: value }, true);
          }}
        />
      </div>
      {query.isPending && <Outline what="places" rows={10} />}
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      {first && rows.length === 0 && (
        <Empty title="Nothing matches all of this">
          {kind === 'all' && siteId === null && floor === null && !onlyFree ? (
            'Shorten what you typed.'
          ) : (
            <>
              Shorten what you typed, or{' '}
              <button
                type="button"
                className="font-semibold text-gentian hover:underline"
                onClick={widen}
              >
                look among everything at every site
              </button>
              .
            </>
          )}
        </Empty>
      )}
      {first && rows.length > 0 && (
        <VirtualRows
          label="Places"
          rows={listed}
          keyOf={keyOf}
          total={first.total + listed.length - rows.length}
          rowPx={[49, 66]}
          onNeedMore={more}
        >
          {(row) =>
            row.kind === 'site' ? (
              <h2 className="pt-4 pb-1 text-[15px]">{row.name}</h2>
            ) : row.kind === 'floor' ? (
              <h3 className="border-t border-edge pt-1.5 pb-0.5 text-[12.5px] font-medium text-ink-2">
                Floor {row.floor}
              </h3>
            ) : (
              <PlaceRow
                place={row.place}
                isOpen={row.place.id === openId}
                onOpen={() => change({ open: String(row.place.id) })}
              />
            )
          }
        </VirtualRows>
      )}
      {!query.isPending && <AddPlaces onOpen={(id) => change({ open: String(id) })} />}
      <Panel
        open={opened.data !== undefined || opened.isError}
        onClose={() => change({ open: null })}
        title={opened.data?.name ?? 'A place'}
      >
        {opened.isError && <Failure error={opened.error} />}
        {opened.data && <PlacePanel key={opened.data.id} place={opened.data} />}
      </Panel>
    </main>
  );
}
