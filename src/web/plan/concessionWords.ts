import type { Concession } from '../../core/planner/blockers.ts';
import type { Blocker } from '../../core/planner/survey.ts';
import { givenName, listNames } from '../../core/planner/words.ts';
import { formatDayNear, formatLength } from '../../core/time/format.ts';
import { MINUTE } from '../../core/time/interval.ts';
import { addDays, dateAt, daysBetween } from '../../core/time/wall.ts';
import type { Plan } from './usePlan.ts';
import { placeName } from './zoneNames.ts';

/** What the names of members and sites are found in. */
export type ConcessionNames = Pick<Plan, 'members' | 'data'>;

const nameOf = (id: number, { members }: Pick<Plan, 'members'>): string =>
  members.find((one) => one.id === id)?.name ?? '';

const cityOf = (siteId: number, { data }: Pick<Plan, 'data'>): string =>
  data.rooms.find((room) => room.siteId === siteId)?.site ?? '';

/** A concession in words. */
export function concessionWords(
  concession: Concession,
  plan: ConcessionNames & Pick<Plan, 'me' | 'now' | 'wishes'>,
): string {
  const { me, now, wishes } = plan;
  switch (concession.kind) {
    case 'setAside':
      return `Without ${nameOf(concession.memberId, plan)}`;
    case 'optional':
      return `${nameOf(concession.memberId, plan)} optional`;
    case 'length':
      return `${formatLength(concession.minutes * MINUTE)} instead of ${formatLength(wishes.lengthMinutes * MINUTE)}`;
    case 'later':
      return `Look on through ${formatDayNear(concession.until - 1, now, me.zone)}`;
    case 'stretch':
      return `Up to ${formatLength(concession.minutes * MINUTE)} outside everybody’s hours`;
    case 'early':
      return `An hour earlier for ${placeName(concession.zone, me.zoneNames)}`;
    case 'late':
      return `An hour later for ${placeName(concession.zone, me.zoneNames)}`;
    case 'tentative':
      return 'Over tentative time';
    case 'anyTime':
      return 'At any time of day';
    case 'unknown':
      return 'Also where nothing is known';
    case 'noRoom':
      return `No room in ${cityOf(concession.siteId, plan)}`;
    case 'anyFeatures':
      return 'Rooms without all of that';
    case 'otherRoom':
      return `Another room than ${nameOf(concession.memberId, plan)}`;
  }
}

/** What a concession changes, and how. */
export type Conceding = Pick<
  Plan,
  'lineUp' | 'setLineUp' | 'set' | 'wishes' | 'dates' | 'me' | 'now' | 'shows' | 'dayCount'
>;

/** Makes a concession: the plan asks anew with it. */
export function concede(concession: Concession, plan: Conceding): void {
  const { lineUp, setLineUp, set, wishes } = plan;
  const member = (id: number, part: Partial<(typeof lineUp)[number]>) =>
    lineUp.map((one) => (one.id === id ? { ...one, ...part } : one));
  switch (concession.kind) {
    case 'setAside':
      return setLineUp(member(concession.memberId, { setAside: true }));
    case 'optional':
      return setLineUp(member(concession.memberId, { role: 'optional' }));
    case 'length':
      return set({ minutes: concession.minutes });
    case 'later':
      return set({ dayCount: daysUntil(concession.until, plan) });
    case 'stretch':
      return set({ stretchMinutes: concession.minutes });
    case 'early':
    case 'late': {
      const before = wishes.stretches[concession.zone] ?? { early: 0, late: 0 };
      const after = { ...before, [concession.kind]: concession.minutes };
      return set({ stretches: { ...wishes.stretches, [concession.zone]: after } });
    }
    case 'tentative':
      return set({ tentativeIsFree: true });
    case 'anyTime':
      return set({ between: null });
    case 'unknown':
      return set({ unknown: 'ignored' });
    case 'noRoom':
      return set({ withoutRoom: [...wishes.rooms.without, concession.siteId] });
    case 'anyFeatures':
      return set({ features: [] });
    case 'otherRoom': {
      setLineUp(member(concession.memberId, { setAside: true }));
      return set({ places: 'fitting' });
    }
  }
}

/** How many of the days that the plan shows lie before an instant. */
function daysUntil(until: number, { dates, me, shows, dayCount }: Conceding): number {
  const last = dateAt(until - 1, me.zone);
  const more = daysBetween(dates.at(-1)!, last);
  let days = dayCount;
  for (let k = 1; k <= more; k++) if (shows(addDays(dates.at(-1)!, k))) days++;
  return days;
}

/** Members and sites that stand in the way, by name. */
export function blockerNames(blockers: readonly Blocker[], plan: ConcessionNames): string {
  return listNames(
    blockers.map((one) => {
      if (one.kind === 'site') return `a room in ${cityOf(one.siteId, plan)}`;
      const member = plan.members.find((other) => other.id === one.id);
      return member ? (member.kind === 'person' ? givenName(member) : member.name) : '';
    }),
    5,
  );
}
