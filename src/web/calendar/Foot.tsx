import { Link } from 'react-router';
import { formatLength, formatSpan } from '../../core/time/format.ts';
import { DAY } from '../../core/time/interval.ts';
import { useMe, useNow } from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { nameOf, type GridItem } from '../grid/index.ts';
import { planPath } from '../lineUp/index.ts';

const LINE =
  'no-print flex min-h-9 items-center gap-x-3.5 overflow-hidden border-t border-edge px-4 whitespace-nowrap max-sm:hidden md:px-6';

/** What is chosen in the grid, in words, with its acts and how it is moved by keys. */
export function Foot({
  item,
  onOpen,
}: {
  item: GridItem | null;
  onOpen: (item: GridItem) => void;
}) {
  const me = useMe();
  const now = useNow();
  // The line is there whether or not something is chosen, so that the hours do not move.
  if (!item)
    return (
      <p data-foot className={`${LINE} text-xs text-ink-2`}>
        Pull over free time to make something of it; arrows do so by keys.
      </p>
    );
  const ahead = item.start - now;
  const soon =
    ahead > 0 && ahead < DAY
      ? `; begins in ${formatLength(ahead)}`
      : item.start <= now && now < item.end
        ? '; is now'
        : '';
  const movable = item.mine?.standing === 'organizer';
  return (
    <div data-foot className={`${LINE} bg-gentian-wash`}>
      <b className="min-w-0 truncate font-semibold">{nameOf(item)}</b>
      <span className="min-w-0 truncate">
        {formatSpan(item, me.zone, me.clock)}
        {item.place && `, ${item.place}`}
        {soon}
      </span>
      {item.eventId && (
        <Button look="quiet" className="px-1 py-0.5" onClick={() => onOpen(item)}>
          Open
        </Button>
      )}
      {movable && (
        <Link
          className="font-semibold text-gentian hover:underline"
          to={planPath({ eventId: item.eventId, occurrence: item.recurrenceId })}
        >
          Another time
        </Link>
      )}
      <span className="ml-auto text-xs text-ink-2">
        {movable
          ? 'Pull it or its edges; by keys: Space and arrows move it, Enter opens'
          : 'Enter opens'}
      </span>
    </div>
  );
}
