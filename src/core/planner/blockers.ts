import { countOpenings } from './openings.ts';
import type { LineUpMember, Wishes } from './lineUp.ts';

/** One thing given up, and how many more starts that would open. */
export interface Concession {
  kind: 'setAside' | 'shorten' | 'stretch' | 'tentative';
  /** The member set aside, for that kind. */
  memberId?: number;
  /** The new length or stretch in minutes, for those kinds. */
  minutes?: number;
  gains: number;
}

const SHORTEST_MINUTES = 15;

/**
 * What each single concession would open beyond what is open now, the most first.
 * Concessions that open nothing are left out.
 */
export function concessions(members: readonly LineUpMember[], wishes: Wishes): Concession[] {
  const now = countOpenings(members, wishes);
  const found: Concession[] = [];
  const consider = (
    concession: Omit<Concession, 'gains'>,
    others: readonly LineUpMember[],
    changed: Wishes,
  ) => {
    const gains = countOpenings(others, changed) - now;
    if (gains > 0) found.push({ ...concession, gains });
  };

  const active = members.filter((member) => !member.setAside);
  if (active.length > 1) {
    for (const { id } of active) {
      const without = active.filter((member) => member.id !== id);
      consider({ kind: 'setAside', memberId: id }, without, wishes);
    }
  }
  const shorter = Math.floor((wishes.lengthMinutes - 1) / 15) * 15;
  if (shorter >= SHORTEST_MINUTES) {
    consider({ kind: 'shorten', minutes: shorter }, members, {
      ...wishes,
      lengthMinutes: shorter,
    });
  }
  const stretchMinutes = wishes.stretchMinutes + 60;
  consider({ kind: 'stretch', minutes: stretchMinutes }, members, { ...wishes, stretchMinutes });
  if (!wishes.tentativeIsFree)
    consider({ kind: 'tentative' }, members, { ...wishes, tentativeIsFree: true });
  return found.sort((a, b) => b.gains - a.gains);
}
