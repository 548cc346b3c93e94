import type { Chip } from '../../core/planner/sentence.ts';
import { formatTimeOfDay } from '../../core/time/typedTime.ts';
import { addDays, resolveWallTime, wallTimeAt } from '../../core/time/wall.ts';
import {
  FEWEST_DAYS,
  MOST_DATES,
  outsider,
  planPath,
  required,
  type LineUpEntry,
} from './address.ts';

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
  const [weekly, day, days, time] = [first('weekly'), first('day'), first('days'), first('time')];
  const between = first('between');
  const rooms = chips.filter((chip): chip is Of<'room'> => chip.kind === 'room');
  const named = rooms.flatMap((room) => room.siteId ?? []);
  return planPath({
    title: first('title')?.text ?? '',
    lineUp: chips.flatMap(lineUpOf),
    minutes: first('length')?.minutes ?? null,
    ...(weekly && { repeating: repeatingOf(weekly) }),
    ...(rooms.length && {
      places: 'fitting',
      withoutRoom: named.length ? siteIds.filter((id) => !named.includes(id)) : [],
    }),
    ...(time && { at: instantOf(day?.date ?? days?.from, time.minute, now, zone) }),
    ...(between && { between: { from: between.from, to: between.to } }),
    ...(day && { from: day.date }),
    ...(days && { from: days.from, dayCount: FEWEST_DAYS }),
  });
}

const repeatingOf = ({ count, everyWeeks }: Of<'weekly'>) => ({
  count: Math.min(count ?? USUAL_DATES, Math.floor(MOST_DATES / everyWeeks)),
  everyWeeks,
});

function lineUpOf(chip: Chip): LineUpEntry[] {
  switch (chip.kind) {
    case 'person':
      return [{ ...required(chip.id), role: roleOf(chip) }];
    case 'team':
      return chip.memberIds.map((id) => ({ ...required(id), role: roleOf(chip) }));
    case 'address':
      return [outsider(chip.email, roleOf(chip))];
    case 'resource':
      return [required(chip.id)];
    default:
      return [];
  }
}

const roleOf = ({ optional }: { optional: boolean }) => (optional ? 'optional' : 'required');

/** A time of day on a day; without one today, or tomorrow where it is over. */
function instantOf(day: string | undefined, minute: number, now: number, zone: string): number {
  const at = (date: string) => resolveWallTime(`${date}T${formatTimeOfDay(minute)}`, zone).instant;
  if (day) return at(day);
  const today = wallTimeAt(now, zone).slice(0, 10);
  return at(today) > now ? at(today) : at(addDays(today, 1));
}
