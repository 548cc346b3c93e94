import { formatSpan, zoneCity } from '../../core/time/format.ts';
import type { Interval } from '../../core/time/interval.ts';
import type { useMe } from '../client/index.ts';

type Reader = ReturnType<typeof useMe>;

/** A zone as its people call it. */
export const nameOfZone = (zone: string, me: Reader): string =>
  me.zoneNames[zone] ?? zoneCity(zone);

/** A time on a place's clock and, where that is another, on the reader's, each named. */
export function bothClocks(span: Interval, zone: string, me: Reader): string {
  const there = formatSpan(span, zone, me.clock);
  return zone === me.zone
    ? there
    : `${there} in ${nameOfZone(zone, me)}, ${formatSpan(span, me.zone, me.clock)} in ${nameOfZone(me.zone, me)}`;
}
