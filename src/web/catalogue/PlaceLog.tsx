import { useState } from 'react';
import type { LogEntry } from '../../contract/changes.ts';
import type { Place } from '../../contract/places.ts';
import { formatDay, formatTime } from '../../core/time/format.ts';
import { Failure, useMe } from '../client/index.ts';
import { Button, PartHeading } from '../design/controls.tsx';
import { Outline } from '../design/states.tsx';
import { usePlaceLog, useTakeBack } from './useCatalogue.ts';

/** What was done to a place and by whom, for those who look after it; each of it can be taken back. */
export function PlaceLog({ place }: { place: Place }) {
  const [open, setOpen] = useState(false);
  return open ? (
    <Entries place={place} />
  ) : (
    <button
      type="button"
      className="reach w-fit font-semibold text-gentian hover:underline"
      onClick={() => setOpen(true)}
    >
      What was done to it …
    </button>
  );
}

function Entries({ place }: { place: Place }) {
  const { query, rows, more } = usePlaceLog(place.id);
  const takeBack = useTakeBack();
  return (
    <section aria-label="What was done to it" className="mt-4">
      <PartHeading>What was done to it</PartHeading>
      {query.isPending && <Outline what="what was done" rows={3} />}
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      {query.data && rows.length === 0 && <p className="text-ink-2">Nothing that is remembered.</p>}
      <ul>
        {rows.map((entry) => (
          <Entry
            key={entry.id}
            entry={entry}
            busy={takeBack.isPending}
            takeBack={(change) => takeBack.mutate(change)}
          />
        ))}
      </ul>
      {query.hasNextPage && (
        <Button repeats look="quiet" disabled={query.isFetchingNextPage} onClick={more}>
          Earlier
        </Button>
      )}
    </section>
  );
}

function Entry({
  entry: { at, actor, actedFor, what, change },
  busy,
  takeBack,
}: {
  entry: LogEntry;
  busy: boolean;
  takeBack: (change: number) => void;
}) {
  const me = useMe();
  return (
    <li className="grid gap-1 border-t border-edge py-2">
      <p>
        <b className="font-semibold">{actor ?? 'Marmot'}</b>
        {actedFor && `, for ${actedFor},`} {what}
      </p>
      <p className="flex flex-wrap items-baseline justify-between gap-x-3 text-[13px] text-ink-2">
        {formatDay(at, me.zone)}, {formatTime(at, me.zone, me.clock)}
        {change !== null && (
          <Button look="quiet" disabled={busy} onClick={() => takeBack(change)}>
            Take it back
          </Button>
        )}
      </p>
    </li>
  );
}
