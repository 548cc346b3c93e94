import { useState } from 'react';
import { counted } from '../../core/counted.ts';
import { listNames } from '../../core/planner/words.ts';
import { formatDay, formatTime } from '../../core/time/format.ts';
import { Failure, useMe } from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { Panel } from '../design/Panel.tsx';
import { Outline } from '../design/states.tsx';
import { useChangesMade } from './useLedger.ts';

/** What its reader changed of many bookings at once in the last weeks, each with its way back. */
export function ChangedTogether() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button
        type="button"
        className="reach font-semibold text-gentian hover:underline max-sm:leading-11"
        onClick={() => setOpen(true)}
      >
        Changed by you …
      </button>
      <Panel open={open} onClose={() => setOpen(false)} title="Changed by you, several at once">
        {open && <List />}
      </Panel>
    </>
  );
}

function List() {
  const me = useMe();
  const { query, takeBack } = useChangesMade(true);
  if (query.isPending) return <Outline what="what you changed" rows={4} />;
  if (query.isError) return <Failure error={query.error} retry={() => void query.refetch()} />;
  const { made } = query.data;
  if (made.length === 0)
    return (
      <p className="text-ink-2">
        In the last 30 days you changed no bookings together that could be taken back.
      </p>
    );
  return (
    <ul>
      {made.map(({ at, isCancelling, titles, changes }) => {
        const others = changes.length - titles.length;
        const what = counted(changes.length, 'booking');
        return (
          <li key={at} className="grid gap-1 border-t border-edge py-2 first:border-t-0">
            <p>
              <b className="font-semibold">
                {what} {isCancelling ? 'given back' : 'changed'}
              </b>
              {titles.length > 0 &&
                `: ${listNames(titles, 3)}${others > 0 ? ` and ${others} more` : ''}`}
            </p>
            <p className="flex flex-wrap items-baseline justify-between gap-x-3 text-[13px] text-ink-2">
              {formatDay(at, me.zone)}, {formatTime(at, me.zone, me.clock)}
              <Button
                look="quiet"
                aria-label={`Take back: ${what}, ${formatTime(at, me.zone, me.clock)}`}
                disabled={takeBack.isPending}
                onClick={() => takeBack.mutate(changes)}
              >
                Take back
              </Button>
            </p>
          </li>
        );
      })}
    </ul>
  );
}
