import { Link } from 'react-router';
import type { CalendarItem } from '../../contract/eventDetail.ts';
import { formatDay, formatTime } from '../../core/time/format.ts';
import { useMe } from '../client/index.ts';
import { PartHeading } from '../design/controls.tsx';
import { itemClass } from '../grid/index.ts';
import { CollisionNote } from './NextCard.tsx';
import { itemAddress, itemPlace } from './useToday.ts';

/** What comes after the next thing, today and tomorrow, with what is on at the same time. */
export function ThenList({
  items,
  tomorrow,
  collisions,
}: {
  items: readonly CalendarItem[];
  tomorrow: number;
  collisions: ReadonlyMap<CalendarItem, readonly CalendarItem[]>;
}) {
  const me = useMe();
  return (
    <section aria-labelledby="then">
      <PartHeading remark="today and tomorrow">
        <span id="then">Then</span>
      </PartHeading>
      {items.length === 0 && (
        <p className="text-ink-2">Nothing more today, and nothing tomorrow.</p>
      )}
      <ul>
        {items.map((item) => (
          <li
            key={item.occurrenceId}
            className="grid grid-cols-[8px_1fr] gap-3 border-t border-edge py-2 max-sm:min-h-14"
          >
            <span className={`rounded-sm ${itemClass(item)}`} aria-hidden="true" />
            <div className="min-w-0">
              <b className="font-semibold">
                {item.start >= tomorrow && `${formatDay(item.start, me.zone).slice(0, 3)} `}
                {item.allDay ? 'all day' : formatTime(item.start, me.zone, me.clock)}
              </b>{' '}
              <Link className="reach hover:underline" to={itemAddress(item, me.zone)}>
                {item.title}
              </Link>
              <CollisionNote item={item} others={collisions.get(item) ?? []} />
              <p className="text-ink-2">{detailsOf(item)}</p>
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}

const detailsOf = (item: CalendarItem): string =>
  [
    itemPlace(item),
    item.standing === 'needs-action' && 'not answered yet',
    item.standing === 'tentative' && 'you said perhaps',
    item.standing === 'organizer' && item.attendeeCount > 1 && 'you organize it',
  ]
    .filter(Boolean)
    .join(' · ');
