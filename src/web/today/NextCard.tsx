import type { CalendarItem } from '../../contract/eventDetail.ts';
import { formatHours, formatLength, formatTime } from '../../core/time/format.ts';
import { useMe, useNow } from '../client/index.ts';
import { PresenceIn } from '../bookings/index.ts';
import { LinkButton } from '../design/controls.tsx';
import { AnswerHere, useRepliesTo } from '../invitations/index.ts';
import { itemAddress, itemPlace } from './useToday.ts';

/** The next thing: when, where, with whom, and what to do about it. */
export function NextCard({
  item,
  others,
}: {
  item: CalendarItem;
  /** What is on at the same time. */
  others: readonly CalendarItem[];
}) {
  const me = useMe();
  const now = useNow();
  const { data: meeting } = useRepliesTo(item.standing === 'organizer' ? item.eventId : null);
  const missing = meeting?.replies.filter((one) => one.reply === 'needs-action') ?? [];
  const place = itemPlace(item);
  return (
    <section aria-labelledby="next">
      <h2 id="next" className="mb-2 text-[15px]">
        {untilWords(item, now)}
      </h2>
      <div className="grid gap-1 rounded-sm border border-edge bg-sheet px-4 py-3.5">
        <p className="font-head text-2xl leading-tight font-semibold">{item.title}</p>
        <p>
          <b className="font-semibold">{formatHours(item, me.zone, me.clock, now)}</b>
          {place && ` · ${place}`}
        </p>
        <p className="text-ink-2">
          {[
            item.attendeeCount > 1 && peopleWords(item),
            missing.length > 0 && `no answer yet from ${missing.map((one) => one.name).join(', ')}`,
          ]
            .filter(Boolean)
            .join(' · ') || 'Nobody else is asked.'}
        </p>
        <CollisionNote item={item} others={others} />
        {item.eventId && <PresenceIn eventId={item.eventId} />}
        <div className="mt-2 flex flex-wrap gap-1.5">
          {item.standing === 'needs-action' && (
            <AnswerHere event={{ ...item, id: item.eventId }} organizer={item.organizer} />
          )}
          <LinkButton to={itemAddress(item, me.zone)}>Open it</LinkButton>
          {meeting && <LinkButton to="/replies">Who is coming</LinkButton>}
        </div>
      </div>
    </section>
  );
}

function peopleWords(item: CalendarItem): string {
  const others = item.attendeeCount - 1;
  const many = `${others} other${others === 1 ? '' : 's'}`;
  return item.standing === 'organizer' ? `you and ${many}` : `by ${item.organizer}, with ${many}`;
}

function untilWords(item: CalendarItem, now: number): string {
  if (item.start <= now) return `On now, until it ends in ${formatLength(item.end - now)}`;
  return `Next, in ${formatLength(Math.max(60_000, item.start - now))}`;
}

/** So many of what is on at the same time are named; of more, how many. */
const MOST_NAMED = 3;

/** That something else is on at the same time, in words. */
export function CollisionNote({
  item,
  others,
}: {
  item: CalendarItem;
  others: readonly CalendarItem[];
}) {
  const me = useMe();
  if (others.length === 0) return null;
  const named = others.length > MOST_NAMED ? others.slice(0, MOST_NAMED - 1) : others;
  const names = named.map(
    (other) =>
      `${other.title}${other.start === item.start ? '' : ` (${formatTime(other.start, me.zone, me.clock)})`}`,
  );
  const more = others.length - named.length;
  if (more > 0) names.push(`${more} more`);
  return (
    <p className="font-semibold text-alpenglow [overflow-wrap:anywhere]">
      at the same time as {new Intl.ListFormat('en-GB').format(names)}
    </p>
  );
}
