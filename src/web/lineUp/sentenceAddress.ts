import type { Chip } from '../../core/sentence/sentence.ts';
import { formatTimeOfDay } from '../../core/time/typedTime.ts';
import { addDays, dateAt, resolveWallTime, wallTimeAt } from '../../core/time/wall.ts';
import {
  MOST_DATES,
  MOST_DAYS,
  outsider,
  planPath,
  required,
  type LineUpEntry,
  type PlanAddress,
} from './address.ts';

type Of<Kind extends Chip['kind']> = Extract<Chip, { kind: Kind }>;

const USUAL_DATES = 8;

/** Whose clock a sentence is read by, and when. */
export interface Hearing {
  siteIds: readonly number[];
  now: number;
  zone: string;
}

/** The plan that a sentence's chips make; nothing is made before it is sent. */
export function sentencePlan(
  chips: readonly Chip[],
  { siteIds, now, zone }: Hearing,
): Partial<PlanAddress> {
  const first = <Kind extends Chip['kind']>(kind: Kind) =>
    chips.find((chip): chip is Of<Kind> => chip.kind === kind);
  const [weekly, day, days, time] = [first('weekly'), first('day'), first('days'), first('time')];
  const between = first('between');
  const rooms = chips.filter((chip): chip is Of<'room'> => chip.kind === 'room');
  const named = rooms.flatMap((room) => room.siteId ?? []);
  const seats = Math.max(0, ...rooms.map((room) => room.seats ?? 0));
  const at = time && instantOf(day?.date ?? days?.from, time, now, zone);
  // On another clock the day may be another one.
  const from = at && time.zone ? dateAt(at, zone) : (day?.date ?? days?.from);
  return {
    title: first('title')?.text ?? '',
    unread: chips.flatMap((chip) => (chip.kind === 'unread' ? [chip.words] : [])).join(', '),
    lineUp: lineUpOf(chips),
    minutes: first('length')?.minutes ?? null,
    ...(weekly && { repeating: repeatingOf(weekly) }),
    ...(rooms.length && {
      places: 'fitting',
      withoutRoom: named.length ? siteIds.filter((id) => !named.includes(id)) : [],
      features: [...new Set(rooms.flatMap((room) => room.features))],
      roomSeats: seats,
    }),
    ...(at && { at }),
    ...(between && { between: { from: between.from, to: between.to } }),
    ...(from && { from }),
    ...(days && { dayCount: Math.min(days.days, MOST_DAYS) }),
  };
}

/** That plan, as an address. */
export const sentenceAddress = (chips: readonly Chip[], hearing: Hearing): string =>
  planPath(sentencePlan(chips, hearing));

const repeatingOf = ({ count, everyWeeks }: Of<'weekly'>) => ({
  count: Math.min(count ?? USUAL_DATES, Math.floor(MOST_DATES / everyWeeks)),
  everyWeeks,
});

/** Whom and what was named, without whoever was left out, unless by name. */
function lineUpOf(chips: readonly Chip[]): LineUpEntry[] {
  const left = new Set(chips.flatMap((chip) => (chip.kind === 'except' ? [chip.id] : [])));
  return chips.flatMap((chip): LineUpEntry[] => {
    switch (chip.kind) {
      case 'person':
        return [{ ...required(chip.id), role: roleOf(chip) }];
      case 'team':
        return chip.memberIds
          .filter((id) => !left.has(id))
          .map((id) => ({ ...required(id), role: roleOf(chip) }));
      case 'address':
        return [outsider(chip.email, roleOf(chip))];
      case 'resource':
        return [required(chip.id)];
      default:
        return [];
    }
  });
}

const roleOf = ({ optional }: { optional: boolean }) => (optional ? 'optional' : 'required');

/** A time of day on a day; without one today, or tomorrow where it is over. */
function instantOf(
  day: string | undefined,
  { minute, zone }: Pick<Of<'time'>, 'minute' | 'zone'>,
  now: number,
  own: string,
): number {
  const clock = zone ?? own;
  const at = (date: string) => resolveWallTime(`${date}T${formatTimeOfDay(minute)}`, clock).instant;
  if (day) return at(day);
  const today = wallTimeAt(now, clock).slice(0, 10);
  return at(today) > now ? at(today) : at(addDays(today, 1));
}
