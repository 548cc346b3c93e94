import { useQuery } from '@tanstack/react-query';
import type { OutOfUse } from '../../contract/closures.ts';
import { formatDay, formatSpan } from '../../core/time/format.ts';
import { answerTo, Failure, useMe } from '../client/index.ts';
import { PartHeading } from '../design/controls.tsx';
import { Outline } from '../design/states.tsx';
import { UseAgain } from './UseAgain.tsx';

/** Everything that nobody can book for a time or for good, each with its one way back. */
export function OutOfUseList({ onOpen }: { onOpen: (id: number) => void }) {
  const query = useQuery(answerTo('GET /api/closures'));
  if (query.isPending) return <Outline what="what is out of use" rows={4} />;
  if (query.isError) return <Failure error={query.error} retry={() => void query.refetch()} />;
  const { places, more } = query.data;
  const away = places.filter((one) => one.retiredAt === null);
  const retired = places.filter((one) => one.retiredAt !== null);
  return (
    <div className="grid gap-6">
      <section aria-label="Out of use">
        <PartHeading>Out of use</PartHeading>
        {away.length === 0 && <p className="text-ink-2">All that there is can be used.</p>}
        <Entries places={away} onOpen={onOpen} />
      </section>
      <section aria-label="Retired">
        <PartHeading>Retired</PartHeading>
        {retired.length === 0 && <p className="text-ink-2">Nothing has been retired.</p>}
        <Entries places={retired} onOpen={onOpen} />
      </section>
      {more && <p className="text-ink-2">There are more than are shown here.</p>}
    </div>
  );
}

const Entries = ({
  places,
  onOpen,
}: {
  places: readonly OutOfUse[];
  onOpen: (id: number) => void;
}) => (
  <ul>
    {places.map((one) => (
      <li
        key={`${one.placeId} ${one.closureId}`}
        className="grid gap-1.5 border-t border-edge py-2 first:border-t-0"
      >
        <Entry one={one} onOpen={onOpen} />
      </li>
    ))}
  </ul>
);

function Entry({ one, onOpen }: { one: OutOfUse; onOpen: (id: number) => void }) {
  const me = useMe();
  const { placeId, place, site, floor, zone, retiredAt, closureId, start, end, reason } = one;
  return (
    <>
      <p>
        {retiredAt === null ? (
          <button
            type="button"
            className="reach font-semibold hover:underline"
            onClick={() => onOpen(placeId)}
          >
            {place}
          </button>
        ) : (
          <b className="font-semibold">{place}</b>
        )}
        <span className="text-ink-2">
          , {site}
          {floor && `, floor ${floor}`}
        </span>
        <span className="block">
          {retiredAt !== null && `Retired ${formatDay(retiredAt, me.zone)}`}
          {retiredAt === null &&
            start !== null &&
            `${formatSpan({ start, end: end! }, me.zone, me.clock)}: ${reason}`}
        </span>
      </p>
      <UseAgain away={{ placeId, place, zone, closureId, isRetired: retiredAt !== null }} />
    </>
  );
}
