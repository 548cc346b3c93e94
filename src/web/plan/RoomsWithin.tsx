import { Plus } from 'lucide-react';
import { keepsTerms } from '../../core/booking/terms.ts';
import { isFreeFor } from '../../core/planner/rooms.ts';
import type { RoomCandidate } from '../../core/planner/wishes.ts';
import { formatTime } from '../../core/time/format.ts';
import { overlaps, type Interval } from '../../core/time/interval.ts';
import { useMe } from '../client/index.ts';
import { type Gathering } from '../lineUp/index.ts';

const MOST_OFFERED = 3;

/** Rooms that are free and large enough at each site of the people, which has none yet: one click each. */
export function RoomsWithin({
  gathering,
  span,
  onTake,
}: {
  gathering: Pick<Gathering, 'members' | 'rooms' | 'reading'>;
  span: Interval;
  onTake: (resourceId: number) => void;
}) {
  const me = useMe();
  const { members, rooms, reading } = gathering;
  if (reading) return null;
  const listed = new Set(members.filter((one) => one.kind === 'resource').map((one) => one.id));
  const people = members.filter((one) => one.kind === 'person' && !one.outside);
  const sites = [...new Set(people.flatMap((one) => one.siteId ?? []))];
  const lines = sites.flatMap((siteId) => {
    const there = rooms.filter((room) => room.siteId === siteId);
    if (there.length === 0 || there.some((room) => listed.has(room.id))) return [];
    const count = people.filter((one) => one.siteId === siteId).length;
    const large = there.filter((room) => room.seats >= count).sort((a, b) => a.seats - b.seats);
    const free = large.filter((room) => isFreeFor(room, span));
    return [{ siteId, site: there[0]!.site, count, large, free: free.slice(0, MOST_OFFERED) }];
  });
  return (
    <>
      {lines.map(({ siteId, site, count, large, free }) => (
        <p key={siteId} className="flex flex-wrap items-center gap-x-2 gap-y-1">
          <span className="text-ink-2">
            {free.length > 0 ? `Free in ${site}:` : noneWords(site, count, large, span, me)}
          </span>
          {free.map((room) => (
            <button
              key={room.id}
              type="button"
              onClick={() => onTake(room.id)}
              className="flex min-h-6 items-center gap-1 rounded-full border border-edge bg-sheet px-2.5 hover:border-ink-2 max-sm:min-h-11"
            >
              <Plus size={12} aria-hidden="true" />
              <span className="font-semibold">{room.name}</span>
              <span className="text-ink-2">{room.seats} seats</span>
            </button>
          ))}
        </p>
      ))}
    </>
  );
}

/** `No room for 6 is free in Bergen then; Gannet is from 11:00.` */
function noneWords(
  site: string,
  count: number,
  large: readonly RoomCandidate[],
  span: Interval,
  me: { zone: string; clock: '24' | '12' },
): string {
  if (large.length === 0) return `No room in ${site} seats ${count}.`;
  const freed = large
    .filter((room) => keepsTerms(room.terms, span))
    .map((room) => ({
      room,
      at: Math.max(...room.busy.filter((busy) => overlaps(busy, span)).map((busy) => busy.end)),
    }))
    .sort((a, b) => a.at - b.at)[0];
  if (!freed) return `No room for ${count} in ${site} can be booked so.`;
  return `No room for ${count} is free in ${site} then; ${freed.room.name} is from ${formatTime(freed.at, me.zone, me.clock)}.`;
}
