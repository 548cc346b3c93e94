import { overlaps, type Interval } from '../time/interval.ts';
import { prepareLineUp, type LineUpMember } from './lineUp.ts';
import { outsideHours } from './openings.ts';

/** What a proposed time means for one member of the line-up. */
export interface Fit {
  id: number;
  /** `free` within their hours; `unknown` when nothing is shared. */
  state: 'free' | 'outside' | 'tentative' | 'busy' | 'away' | 'unknown';
}

const ORDER = ['tentative', 'busy', 'away'] as const;

/** How a time fits everyone who is not set aside, the gravest state of each. */
export function fitOf(members: readonly LineUpMember[], span: Interval): Fit[] {
  const prepared = prepareLineUp(
    members.filter((member) => !member.setAside),
    { window: span, stretchMinutes: 0, tentativeIsFree: false },
  );
  return prepared.map((member) => {
    if (member.knowledge === 'none') return { id: member.id, state: 'unknown' };
    const clashes = member.busy.filter((busy) => overlaps(busy, span));
    const gravest = ORDER.findLast((state) => clashes.some((busy) => busy.occupancy === state));
    if (gravest) return { id: member.id, state: gravest };
    return { id: member.id, state: outsideHours(member, span) ? 'outside' : 'free' };
  });
}
