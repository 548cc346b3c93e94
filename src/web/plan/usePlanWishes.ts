import { useMemo } from 'react';
import type { Wishes } from '../../core/planner/wishes.ts';
import { MINUTE, type Interval } from '../../core/time/interval.ts';
import type { PlanAddress } from '../lineUp/index.ts';

const QUARTER = 15 * MINUTE;

interface Asked {
  /** The days that are read. */
  window: Interval;
  now: number;
  minutes: number;
  leadMinutes: number;
  me: { id: number; zone: string };
}

/** What the planner is asked, by the address; the same question stays the same object. */
export function usePlanWishes(
  asked: PlanAddress,
  { window, now, minutes, leadMinutes, me: { id, zone } }: Asked,
): Wishes {
  // A quarter hour's step, so that not every tick of the clock is a question of its own.
  const asOf = Math.floor(now / QUARTER) * QUARTER;
  const startable = Math.ceil((now + leadMinutes * MINUTE) / QUARTER) * QUARTER;
  // Alone one needs no notice, unless one wished for it.
  const startableAlone =
    asked.leadMinutes === null ? Math.ceil(now / QUARTER) * QUARTER : startable;
  const { rule, places, features, roomText, roomSeats, withoutRoom } = asked;
  const { between, stretchMinutes, stretches, tentativeIsFree, unknown, leastBad } = asked;
  const [betweenFrom, betweenTo] = [between?.from ?? null, between?.to ?? null];
  return useMemo<Wishes>(
    () => ({
      window,
      notBefore: startable,
      aloneNotBefore: startableAlone,
      askerId: id,
      now: asOf,
      lengthMinutes: minutes,
      between:
        betweenFrom === null || betweenTo === null ? null : { from: betweenFrom, to: betweenTo },
      stepMinutes: 15,
      rule,
      places,
      rooms: { features, text: roomText, seats: roomSeats, without: withoutRoom },
      stretchMinutes,
      stretches,
      tentativeIsFree,
      unknown,
      leastBad,
      zone,
      limit: 10,
    }),
    [
      window,
      startable,
      startableAlone,
      id,
      asOf,
      betweenFrom,
      betweenTo,
      minutes,
      rule,
      places,
      features,
      roomText,
      roomSeats,
      withoutRoom,
      stretchMinutes,
      stretches,
      tentativeIsFree,
      unknown,
      leastBad,
      zone,
    ],
  );
}
