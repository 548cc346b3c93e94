import type { Chip } from '../../core/planner/sentence.ts';
import { formatTimeOfDay } from '../../core/time/typedTime.ts';
import { addDays, resolveWallTime, wallTimeAt } from '../../core/time/wall.ts';
import { writeLineUp, type Asked } from './address.ts';

type Of<Kind extends Chip['kind']> = Extract<Chip, { kind: Kind }>;

const USUAL_DATES = 8;

/** The plan that a sentence's chips make, as an address; nothing is made before it is sent. */
export function sentenceAddress(
  chips: readonly Chip[],
  siteIds: readonly number[],
  now: number,
  zone: string,
): string {
  const first = <Kind extends Chip['kind']>(kind: Kind) =>
    chips.find((chip): chip is Of<Kind> => chip.kind === kind);
  const params = new URLSearchParams();
  const title = first('title');
  if (title) params.set('title', title.text);
  const lineUp = chips.flatMap(lineUpOf);
  if (lineUp.length) params.set('with', writeLineUp(lineUp));
  const length = first('length');
  if (length) params.set('minutes', String(length.minutes));
  const weekly = first('weekly');
  if (weekly) {
    const count = Math.min(weekly.count ?? USUAL_DATES, Math.floor(26 / weekly.everyWeeks));
    params.set('repeat', `${count}x${weekly.everyWeeks}`);
  }
  const rooms = chips.filter((chip): chip is Of<'room'> => chip.kind === 'room');
  if (rooms.length) {
    params.set('places', 'fitting');
    const named = rooms.flatMap((room) => room.siteId ?? []);
    const others = named.length ? siteIds.filter((id) => !named.includes(id)) : [];
    if (others.length) params.set('noroom', others.join(','));
  }
  const day = first('day')?.date;
  const days = first('days');
  const time = first('time');
  if (time) params.set('at', String(instantOf(day ?? days?.from, time.minute, now, zone)));
  if (day) params.set('from', day);
  if (days) {
    params.set('from', days.from);
    params.set('days', '5');
  }
  return `/plan?${params.toString()}`;
}

function lineUpOf(chip: Chip): Asked[] {
  const asked = (id: number, optional: boolean, email?: string): Asked => ({
    id,
    ...(email && { email }),
    role: optional ? 'optional' : 'required',
    setAside: false,
  });
  if (chip.kind === 'person') return [asked(chip.id, chip.optional)];
  if (chip.kind === 'team') return chip.memberIds.map((id) => asked(id, chip.optional));
  if (chip.kind === 'address') return [asked(-1, chip.optional, chip.email)];
  return chip.kind === 'resource' ? [asked(chip.id, false)] : [];
}

/** A time of day on a day; without one today, or tomorrow where it is over. */
function instantOf(day: string | undefined, minute: number, now: number, zone: string): number {
  const at = (date: string) => resolveWallTime(`${date}T${formatTimeOfDay(minute)}`, zone).instant;
  if (day) return at(day);
  const today = wallTimeAt(now, zone).slice(0, 10);
  return at(today) > now ? at(today) : at(addDays(today, 1));
}
