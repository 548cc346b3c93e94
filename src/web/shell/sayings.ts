import type { PlaceSentence } from '../../core/booking/sentence.ts';
import type { Chip } from '../../core/sentence/sentence.ts';
import { formatTimeOfDay } from '../../core/time/typedTime.ts';
import { dateAt, resolveWallTime } from '../../core/time/wall.ts';
import { planPath } from '../lineUp/index.ts';

/** Where a sentence leads that looks for a place. */
export function findAddress(place: PlaceSentence): string {
  const { kind, date, from, to, minutes, seats, siteId, near, text: words } = place;
  const isExact = minutes !== null && from !== null && to !== null && to - from === minutes;
  const query = new URLSearchParams({
    kind,
    ...(date && { date }),
    ...(from !== null && to !== null && { from: String(from), to: String(to) }),
    ...(isExact ? { minutes: 'all' } : minutes !== null && { minutes: String(minutes) }),
    ...(seats > 1 && { seats: String(seats) }),
    ...(siteId !== null && { site: String(siteId) }),
    ...(near.length > 0 && { near: near.join(',') }),
    ...(words && { q: words }),
  });
  return `/places/find?${query.toString()}`;
}

/** When a command says that something is to be; null for what it does not say. */
export function whenOf(chips: readonly Chip[]) {
  const of = <Kind extends Chip['kind']>(kind: Kind) =>
    chips.find((chip): chip is Extract<Chip, { kind: Kind }> => chip.kind === kind);
  return {
    date: of('day')?.date ?? of('days')?.from ?? null,
    time: of('time') ?? null,
    minutes: of('length')?.minutes ?? null,
  };
}

/** A meeting that a command names. */
export interface Meant {
  eventId: string;
  recurrenceId: string | null;
  start: number;
  end: number;
}

/** Plan with a meeting that is to have another time: the one that was said, where one was. */
export function moveAddress(
  { eventId, recurrenceId, start }: Meant,
  chips: readonly Chip[],
  zone: string,
): string {
  const { date, time, minutes } = whenOf(chips);
  const clock = time?.zone ?? zone;
  const day = date ?? dateAt(start, clock);
  const at = time && resolveWallTime(`${day}T${formatTimeOfDay(time.minute)}`, clock).instant;
  return planPath({
    eventId,
    occurrence: recurrenceId,
    from: at ? dateAt(at, zone) : date,
    at,
    minutes,
  });
}
