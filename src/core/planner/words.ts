import { formatTime, type ClockStyle } from '../time/format.ts';
import type { LineUpMember } from './lineUp.ts';
import type { Opening } from './openings.ts';

/** One part of an opening's reason; `odd` ones want a second look. */
export interface Reason {
  text: string;
  odd: boolean;
}

const givenName = (member: LineUpMember) => member.name.split(' ')[0] ?? member.name;

/** `Ines`, `Ines and Tomas`, `Ines, Tomas and 3 more`. */
export function listNames(names: readonly string[], most = 3): string {
  if (names.length <= 1) return names[0] ?? '';
  const shown = names.length > most ? names.slice(0, most - 1) : names.slice(0, -1);
  const rest = names.length - shown.length;
  return `${shown.join(', ')} and ${rest === 1 ? names[names.length - 1] : `${rest} more`}`;
}

/** Why an opening is good, and what is not perfect about it, in words made of its facts. */
export function openingReasons(
  opening: Opening,
  members: readonly LineUpMember[],
  clock: ClockStyle = '24',
): Reason[] {
  const people = members.filter((member) => member.kind === 'person' && !member.setAside);
  const resources = members.filter((member) => member.kind === 'resource' && !member.setAside);
  const missing = people.filter((person) => opening.missing.includes(person.id));
  const reasons = freeReasons(people, missing);
  if (resources.length > 0) {
    reasons.push({ text: `${listNames(resources.map((r) => r.name))} free`, odd: false });
  }
  reasons.push(...outsideReasons(opening, people, clock));
  const midday = people.filter((person) => opening.midday.includes(person.id));
  if (midday.length > 0) {
    reasons.push({ text: `over midday for ${listNames(midday.map(givenName))}`, odd: false });
  }
  return reasons;
}

function freeReasons(people: readonly LineUpMember[], missing: readonly LineUpMember[]): Reason[] {
  if (people.length === 0) return [];
  if (missing.length === 0) {
    return [{ text: people.length === 1 ? 'free' : `all ${people.length} free`, odd: false }];
  }
  const come = people.length - missing.length;
  return [
    { text: `${come} of ${people.length} free`, odd: false },
    { text: `without ${listNames(missing.map(givenName))}`, odd: true },
  ];
}

/** People whose clock shows the same time are named together: "07:00 for Mika and Jo". */
function outsideReasons(
  opening: Opening,
  people: readonly LineUpMember[],
  clock: ClockStyle,
): Reason[] {
  const byTime = new Map<string, string[]>();
  for (const { id, side } of opening.outside) {
    const person = people.find((candidate) => candidate.id === id);
    if (!person) continue;
    const time =
      side === 'early'
        ? `${formatTime(opening.start, person.zone, clock)}`
        : `until ${formatTime(opening.end, person.zone, clock)}`;
    byTime.set(time, [...(byTime.get(time) ?? []), givenName(person)]);
  }
  return [...byTime].map(([time, names]) => ({
    text: `${time} for ${listNames(names)}`,
    odd: true,
  }));
}
