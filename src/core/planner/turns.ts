import { outsideHours } from './hours.ts';
import { prepareLineUp, type LineUpMember } from './lineUp.ts';
import type { PastMeeting } from './wishes.ts';

/** How often somebody took an early or a late hour in the last meetings, one after the other. */
export interface Turns {
  early: number;
  late: number;
}

export const NO_TURNS: Turns = { early: 0, late: 0 };

/** More than this many times in a row weigh no more. */
export const MOST_TURNS = 3;

/**
 * For each person, how many of the most recent meetings they took part in lay outside their hours
 * on the same side without one in between that did not.
 * @param history the most recent first
 */
export function turnsOf(
  members: readonly LineUpMember[],
  history: readonly PastMeeting[],
): Map<number, Turns> {
  const turns = new Map<number, Turns>();
  const ended = new Set<string>();
  for (const { people, ...meeting } of history) {
    const took = members.filter((one) => one.kind === 'person' && people.includes(one.id));
    const prepared = prepareLineUp(
      took.map((one) => ({ ...one, busy: [] })),
      { window: meeting, stretchMinutes: 0, tentativeIsFree: true },
    );
    for (const member of prepared) {
      const side = outsideHours(member, meeting)?.side;
      for (const which of ['early', 'late'] as const) {
        const key = `${member.id} ${which}`;
        if (side !== which) ended.add(key);
        else if (!ended.has(key)) {
          const before = turns.get(member.id) ?? NO_TURNS;
          turns.set(member.id, { ...before, [which]: before[which] + 1 });
        }
      }
    }
  }
  return turns;
}
