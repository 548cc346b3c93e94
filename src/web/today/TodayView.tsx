import { collisionsOf } from '../../core/availability/dayShape.ts';
import { formatLength, formatLongDay, formatTime } from '../../core/time/format.ts';
import { Failure, useMe, useNow } from '../client/index.ts';
import { MyPresence, PlacesWanted, useMyBookings, usePlaceRequests } from '../bookings/index.ts';
import { Outline } from '../design/states.tsx';
import { MailAside, useFirstReplies, useMailAside, useNews } from '../invitations/index.ts';
import { PlacesAwaited, useWaited } from '../waiting/index.ts';
import { DayStrip, useDayShape } from './DayStrip.tsx';
import { FirstHour } from './FirstHour.tsx';
import { NeedsYou } from './NeedsYou.tsx';
import { NextCard } from './NextCard.tsx';
import { ThenList } from './ThenList.tsx';
import { takesTime, useDays } from './useToday.ts';
import { MOST_WAITED_FOR, WaitingFor } from './WaitingFor.tsx';

/** What needs me, and what is next? */
export function TodayView() {
  const me = useMe();
  const now = useNow();
  const { query, today, tomorrow, items } = useDays();
  const shape = useDayShape(today, items);
  const ahead = items.filter((item) => item.end > now);
  const next = ahead.find((item) => takesTime(item) && item.start < tomorrow);
  const collisions = collisionsOf(ahead.filter(takesTime));
  const left = ahead.filter((item) => takesTime(item) && item.start < tomorrow).length;
  const { longest } = shape;
  // Shown once all of it is there, so that nothing pushes away what somebody is about to touch.
  const isReading = [
    query,
    useNews(),
    useFirstReplies(MOST_WAITED_FOR),
    useMyBookings(),
    usePlaceRequests(),
    useWaited(),
    useMailAside(),
  ].some((one) => one.isLoading);
  return (
    <main className="mx-auto w-full max-w-[1320px] px-4 py-4 md:px-6">
      <div className="mb-3 flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1 className="text-[22px] sm:text-[26px]">{formatLongDay(now, me.zone)}</h1>
        <p className="text-ink-2 max-sm:w-full max-sm:truncate">
          {query.isSuccess ? (
            <>
              {left === 0 ? 'Nothing more today' : `${left} more today`}
              {longest &&
                `, ${formatLength(longest.end - longest.start)} free in one piece from ${formatTime(longest.start, me.zone, me.clock)}`}
            </>
          ) : (
            '\u00a0'
          )}
        </p>
      </div>
      {query.isPending ? (
        <div className="mb-6 hidden h-[98px] rounded-sm border border-edge bg-closed sm:block" />
      ) : (
        query.isSuccess && <DayStrip today={today} items={items} shape={shape} />
      )}
      <FirstHour />
      {isReading && <Outline what="your day" rows={8} />}
      <div
        hidden={isReading}
        className="grid gap-x-6 gap-y-7 lg:grid-cols-[1.05fr_1.25fr_0.85fr] lg:grid-rows-[auto_1fr]"
      >
        <div className="peer lg:col-start-1 lg:empty:hidden">
          <MyPresence without={next?.eventId ?? undefined} />
          {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
          {next && <NextCard item={next} others={collisions.get(next) ?? []} />}
        </div>
        <div className="lg:col-start-2 lg:row-span-2 lg:row-start-1">
          <PlacesWanted />
          <NeedsYou />
          <MailAside />
        </div>
        {/* Where nothing is next, what comes then stands at the top. */}
        <div className="lg:col-start-1 lg:row-start-2 lg:peer-empty:row-start-1">
          {query.isSuccess && (
            <ThenList
              items={ahead.filter((item) => item !== next)}
              tomorrow={tomorrow}
              collisions={collisions}
            />
          )}
        </div>
        <div className="lg:col-start-3 lg:row-span-2 lg:row-start-1">
          <PlacesAwaited />
          <WaitingFor />
        </div>
      </div>
    </main>
  );
}
