import { useState } from 'react';
import { Link } from 'react-router';
import { formatTime, zoneCity } from '../../core/time/format.ts';
import { wallTimeAt } from '../../core/time/wall.ts';
import { useMe, useNow } from '../client/index.ts';
import { Button } from '../design/controls.tsx';

/** Under which this browser keeps of which two clocks its user knows that they differ. */
const KNOWN = 'marmot.clocksKnown';

function isKnown(pair: string): boolean {
  try {
    return localStorage.getItem(KNOWN) === pair;
  } catch {
    return false;
  }
}

/** That times stand by another clock than this computer's, until it is known or no longer so. */
export function OtherClock() {
  const me = useMe();
  const now = useNow();
  const here = Intl.DateTimeFormat().resolvedOptions().timeZone;
  const pair = `${me.zone} ${here}`;
  const [gone, setGone] = useState<string | null>(null);
  if (gone === pair || wallTimeAt(now, here) === wallTimeAt(now, me.zone) || isKnown(pair))
    return null;
  const keepSo = () => {
    setGone(pair);
    try {
      localStorage.setItem(KNOWN, pair);
    } catch {
      // Where nothing can be kept it is said again at the next visit.
    }
  };
  const mine = me.zoneNames[me.zone] ?? zoneCity(me.zone);
  return (
    <aside
      aria-label="Another clock"
      className="no-print flex flex-wrap items-baseline gap-x-3 border-b border-edge bg-sheet px-4 py-1 text-[13px] md:px-6"
    >
      <span>
        All times are {mine}’s, now{' '}
        <b className="font-semibold">{formatTime(now, me.zone, me.clock)}</b>. This device’s clock
        says {formatTime(now, here, me.clock)}.
      </span>
      <Link className="font-semibold text-gentian underline" to="/preferences">
        Change my home zone
      </Link>
      <Button look="quiet" className="px-0 text-[13px]" onClick={keepSo}>
        Keep {mine}’s times
      </Button>
    </aside>
  );
}
