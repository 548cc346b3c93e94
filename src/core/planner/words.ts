import { formatLength, formatTime, type ClockStyle } from '../time/format.ts';
import { MINUTE } from '../time/interval.ts';
import type { LineUpMember } from './lineUp.ts';
import type { Opening } from './openings.ts';
import type { PickedRoom } from './rooms.ts';

/** One part of an opening's reason; `odd` ones want a second look. */
export interface Reason {
  text: string;
  odd: boolean;
}

/** How the reader wants times and zones said. */
export interface Speech {
  clock: ClockStyle;
  /** A zone as its people call it, such as the city of their site. */
  placeOf: (zone: string) => string;
}

const plainly: Speech = { clock: '24', placeOf: (zone) => zone.split('/').pop() ?? zone };

export const givenName = (member: Pick<LineUpMember, 'name'>): string =>
  member.name.split(' ')[0] ?? member.name;

/** `Ines`, `Ines and Tomas`, `Ines, Tomas and 3 more`. */
export function listNames(names: readonly string[], most = 3): string {
  if (names.length <= 1) return names[0] ?? '';
  const shown = names.length > most ? names.slice(0, most - 1) : names.slice(0, -1);
  const rest = names.length - shown.length;
  return `${shown.join(', ')} and ${rest === 1 ? names[names.length - 1] : `${rest} more`}`;
}

/** Why an opening is good, and what is not perfect about it, best first, in words made of its facts. */
export function openingReasons(
  opening: Opening,
  members: readonly LineUpMember[],
  speech: Speech = plainly,
): Reason[] {
  const active = members.filter((member) => !member.setAside);
  const people = active.filter((member) => member.kind === 'person');
  const named = (ids: readonly number[]) =>
    listNames(people.filter((one) => ids.includes(one.id)).map(givenName));
  const reasons = freeReasons(opening, people);
  reasons.push(...placeReasons(opening, active), ...opening.rooms.map(roomReason));
  reasons.push(...outsideReasons(opening, people, speech));
  if (opening.points.notice > 0) reasons.push({ text: 'at short notice', odd: false });
  if (opening.doubtful.length > 0)
    reasons.push({ text: `nothing known of ${named(opening.doubtful)}`, odd: true });
  if (opening.midday.length > 0)
    reasons.push({ text: `over midday for ${named(opening.midday)}`, odd: false });
  if (opening.backToBack.length > 0)
    reasons.push({ text: `no break for ${named(opening.backToBack)}`, odd: false });
  if (opening.broken.length > 0) {
    const lengths = [...new Set(opening.broken.map((one) => one.minutes))].sort((a, b) => b - a);
    const each = lengths.map((minutes, k) => {
      const ids = opening.broken.flatMap((one) => (one.minutes === minutes ? [one.id] : []));
      const what = k === 0 ? ' of free time' : '';
      return `${formatLength(minutes * MINUTE)}${what} for ${named(ids)}`;
    });
    reasons.push({ text: `breaks up ${each.join(', ')}`, odd: false });
  }
  return reasons;
}

function freeReasons({ missing, doubtful }: Opening, people: readonly LineUpMember[]): Reason[] {
  if (people.length === 0) return [];
  const absent = people.filter((person) => missing.includes(person.id));
  const free = people.length - absent.length - doubtful.length;
  if (free === people.length)
    return [{ text: people.length === 1 ? 'free' : `all ${people.length} free`, odd: false }];
  const reasons = [{ text: `${free} of ${people.length} free`, odd: false }];
  if (absent.length > 0) {
    const required = absent.filter((one) => one.role === 'required');
    const text = `without ${listNames(absent.map(givenName))}`;
    const whole = required.length === absent.length;
    reasons.push({
      text: required.length === 0 ? text : `${text}${whole ? ', required' : ', some required'}`,
      odd: true,
    });
  }
  return reasons;
}

function placeReasons({ taken }: Opening, active: readonly LineUpMember[]): Reason[] {
  const places = active.filter((member) => member.kind === 'resource');
  const free = places.filter((place) => !taken.includes(place.id));
  const gone = places.filter((place) => taken.includes(place.id));
  return [
    ...(free.length
      ? [{ text: `${listNames(free.map((one) => one.name))} free`, odd: false }]
      : []),
    ...(gone.length
      ? [{ text: `${listNames(gone.map((one) => one.name))} taken`, odd: true }]
      : []),
  ];
}

function roomReason({ room, site, people, free, fitting }: PickedRoom): Reason {
  if (!room) return { text: `no room free at ${site}`, odd: true };
  const others = fitting > 1 ? `, ${free} of ${fitting} rooms free` : '';
  return { text: `${room.name} for ${people} at ${site}${others}`, odd: false };
}

/** People whose clock shows the same time are named together: "07:00 for Mika and Jo". */
function outsideReasons(
  opening: Opening,
  people: readonly LineUpMember[],
  { clock, placeOf }: Speech,
): Reason[] {
  const groups = new Map<string, { names: string[]; turns: string }>();
  for (const { id, side, turns } of opening.outside) {
    const person = people.find((candidate) => candidate.id === id);
    if (!person) continue;
    const time =
      side === 'break'
        ? 'in the break'
        : side === 'early'
          ? formatTime(opening.start, person.zone, clock)
          : `until ${formatTime(opening.end, person.zone, clock)}`;
    const hour = side === 'early' ? 'early' : 'late';
    const before =
      turns === 0
        ? ''
        : `, ${placeOf(person.zone)} took the ${hour} hour ${turns === 1 ? 'last time' : `the last ${turns} times`}`;
    const key = `${time}${before}`;
    const group = groups.get(key) ?? { names: [], turns: before };
    group.names.push(givenName(person));
    groups.set(key, group);
  }
  return [...groups].map(([key, { names, turns }]) => ({
    text: `${key.slice(0, key.length - turns.length)} for ${listNames(names)}${turns}`,
    odd: true,
  }));
}
