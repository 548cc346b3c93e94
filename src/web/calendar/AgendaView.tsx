import { formatHours, formatLongDay, formatSpan } from '../../core/time/format.ts';
import { dateAt, startOfDay } from '../../core/time/wall.ts';
import { useMe, useNow } from '../client/index.ts';
import { Empty } from '../design/states.tsx';
import { REPLY_WORDS } from '../invitations/index.ts';
import {
  nameOf,
  overlaid,
  type GridItem,
  type Lane,
  lookOf,
  useCategoryMap,
} from '../grid/index.ts';
import type { DayOff } from '../time/index.ts';

/** What comes, one after another, day by day. */
export function AgendaView({
  dates,
  lanes,
  holidays,
  onOpen,
}: {
  dates: string[];
  lanes: readonly Lane[];
  holidays: ReadonlyMap<string, DayOff>;
  onOpen: (item: GridItem) => void;
}) {
  const me = useMe();
  const now = useNow();
  const today = dateAt(now, me.zone);
  const items = overlaid(lanes);
  const days = dates
    .map((date, k) => {
      const start = startOfDay(date, me.zone);
      const end = k + 1 < dates.length ? startOfDay(dates[k + 1]!, me.zone) : start + 86_400_000;
      return {
        date,
        start,
        // What goes on for days is said on its first, and on the first day shown.
        items: items.filter(
          (item) => item.end > start && item.start < end && (item.start >= start || k === 0),
        ),
      };
    })
    .filter((day) => day.items.length > 0 || holidays.has(day.date) || day.date === today);
  return (
    <div className="min-h-0 flex-1 overflow-y-auto border-t border-edge bg-sheet px-4 pb-8 md:px-6">
      <div className="mx-auto max-w-4xl">
        {items.length === 0 && (
          <div className="pt-6">
            <Empty title="Nothing in these four weeks">
              Choose “New event”, or plan a meeting with others.
            </Empty>
          </div>
        )}
        {days.map((day) => (
          <section
            key={day.date}
            className="grid gap-x-6 border-b border-edge py-3 md:grid-cols-[12rem_1fr]"
          >
            <h2 className={`text-[14px] ${day.date === today ? 'text-alpenglow' : ''}`}>
              {formatLongDay(day.start, me.zone).replace(/ \d{4}$/, '')}
              {day.date === today && <span className="block text-xs">today</span>}
              {holidays.has(day.date) && (
                <span className="block text-xs font-normal text-ink-2">
                  {holidays.get(day.date)?.words}
                </span>
              )}
            </h2>
            <ul className="grid gap-0.5">
              {day.items.length === 0 && <li className="py-1 text-ink-2">Nothing planned.</li>}
              {day.items.map((item) => (
                <li key={item.key}>
                  <AgendaLine item={item} onOpen={() => onOpen(item)} past={item.end <= now} />
                </li>
              ))}
            </ul>
          </section>
        ))}
      </div>
    </div>
  );
}

/** One thing as a line: when, what, where, with whom. */
export function AgendaLine({
  item,
  onOpen,
  past = false,
  withDay = false,
  remark,
}: {
  item: GridItem;
  onOpen: () => void;
  past?: boolean;
  /** Names the day as well. */
  withDay?: boolean;
  remark?: string | null | undefined;
}) {
  const me = useMe();
  const look = lookOf(item, useCategoryMap());
  const thisYear = dateAt(useNow(), me.zone).slice(0, 4);
  const times = item.allDay ? 'all day' : formatHours(item, me.zone, me.clock);
  const standing = item.mine?.standing;
  const facts = [
    item.place,
    item.mine && item.mine.attendeeCount > 1 ? `${item.mine.attendeeCount} people` : '',
    standing && standing !== 'organizer' && standing !== 'accepted' ? REPLY_WORDS[standing] : '',
    item.mine?.recurrenceId ? 'repeats' : '',
    item.reason ?? '',
    remark ?? '',
  ].filter(Boolean);
  return (
    <button
      type="button"
      data-item={item.key}
      disabled={!item.eventId}
      onClick={onOpen}
      className={`grid w-full grid-cols-[auto_6px_1fr] items-stretch gap-3 rounded-sm py-1 pr-2 text-left enabled:hover:bg-gentian-wash ${past ? 'text-ink-2' : ''}`}
    >
      <span className={withDay ? 'w-52 text-ink-2' : 'w-28 text-ink-2'}>
        {withDay ? formatSpan(item, me.zone, me.clock) : times}
        {withDay &&
          dateAt(item.start, me.zone).slice(0, 4) !== thisYear &&
          `, ${dateAt(item.start, me.zone).slice(0, 4)}`}
      </span>
      <span className={`rounded-full ${look.mark}`} style={look.markStyle} />
      <span className="min-w-0">
        <b data-written className="font-semibold">
          {nameOf(item)}
        </b>
        {facts.length > 0 && <span className="text-ink-2"> · {facts.join(' · ')}</span>}
      </span>
    </button>
  );
}
