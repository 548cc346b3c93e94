import { slotStart } from '../availability/slots.ts';
import { leastAllowed } from '../booking/terms.ts';
import { DAY, HOUR, type Interval } from '../time/interval.ts';
import { activeMembers, isNeeded, othersThan, prepareLineUp, type LineUpMember } from './lineUp.ts';
import { rank, type Opening } from './openings.ts';
import { survey, type Survey } from './survey.ts';
import type { Surroundings, Wishes } from './wishes.ts';

/** Everything the planner is asked with. */
export interface BlockerQuestion {
  members: readonly LineUpMember[];
  wishes: Wishes;
  surroundings: Surroundings;
}

/** One thing given up. */
export type Concession =
  | { kind: 'setAside'; memberId: number }
  | { kind: 'optional'; memberId: number }
  /** Another length, shorter or as long as a place asks. */
  | { kind: 'length'; minutes: number }
  | { kind: 'later'; until: number }
  | { kind: 'stretch'; minutes: number }
  | { kind: 'early' | 'late'; zone: string; minutes: number }
  | { kind: 'tentative' }
  | { kind: 'anyTime' }
  | { kind: 'unknown' }
  | { kind: 'noRoom'; siteId: number }
  | { kind: 'anyFeatures' }
  | { kind: 'otherRoom'; memberId: number };

/** A concession, how many more starts it opens, and the best of those. */
export interface Offer {
  concession: Concession;
  gains: number;
  best: Opening | null;
}

const LENGTHS = [5, 10, 15, 20, 25, 30, 45, 60, 90, 120, 180, 240, 360, 480];
const HOUR_MINUTES = HOUR / 60_000;
const MOST_STRETCH = 720;

/**
 * What each single concession would open beyond what is open now, the most first; those that open
 * nothing are left out.
 * @param keep ids of members that cannot be set aside, such as the organizer
 * @param known the window for which busy times are known, which a look further may not leave
 * @param most how many to return
 */
export function concessions(
  question: BlockerQuestion,
  {
    keep = [],
    known,
    most = 12,
  }: { keep?: readonly number[]; known?: Interval; most?: number } = {},
): Offer[] {
  const { members, wishes, surroundings } = question;
  const prepared = prepareLineUp(activeMembers(members), wishes);
  if (prepared.length === 0) return [];
  const now = survey(members, wishes, surroundings, prepared);
  const offers = [...withoutOne(question, now, keep), ...widened(question, now, known)];
  return offers
    .filter((one) => one.gains > 0 && !isNeedless(one, offers))
    .sort((a, b) => b.gains - a.gains)
    .slice(0, most)
    .map((one) => ({ ...one, best: bestAdded(question, one.concession, now) }));
}

type Counted = Omit<Offer, 'best'>;

/** Whether a meeting opens no more than a longer one. */
const isNeedless = ({ concession: one, gains }: Counted, offers: readonly Counted[]): boolean =>
  one.kind === 'length' &&
  offers.some(
    ({ concession: other, gains: theirs }) =>
      other.kind === 'length' && other.minutes > one.minutes && theirs >= gains,
  );

/** Setting a needed member aside opens exactly the starts that it alone blocks. */
function withoutOne(question: BlockerQuestion, now: Survey, keep: readonly number[]): Counted[] {
  const { members, wishes } = question;
  const gains = new Map<number, number>();
  for (let slot = now.from; slot < now.to; slot++) {
    if (now.blocked[slot] !== 1) continue;
    const position = now.onlyOne[slot]!;
    gains.set(position, (gains.get(position) ?? 0) + 1);
  }
  const offers = now.blockers.flatMap((blocker, k): Counted[] => {
    const gained = gains.get(k + 1) ?? 0;
    if (blocker.kind === 'site') {
      return [{ concession: { kind: 'noRoom', siteId: blocker.siteId }, gains: gained }];
    }
    const member = members.find((one) => one.id === blocker.id)!;
    if (keep.includes(member.id) || now.prepared.length === 1) return [];
    const memberId = member.id;
    // Without a person the site may need a smaller room, or none, so rooms are looked at anew; and whoever
    // is left alone may begin at once.
    const exact =
      wishes.places === 'fitting' ||
      (wishes.aloneNotBefore !== undefined && othersThan(wishes.askerId, members) === 1);
    const count = (concession: Concession): Counted => ({
      concession,
      gains: exact ? gainOf(question, concession, now) : gained,
    });
    const found = [count({ kind: 'setAside', memberId })];
    if (member.kind === 'person' && wishes.rule === 'required' && member.role === 'required') {
      found.push({ concession: { kind: 'optional', memberId }, gains: gained });
    }
    return found;
  });
  return [...offers, ...withoutSeat(question, now, keep)];
}

/** People who are not needed may still be one too many for the rooms of their site. */
function withoutSeat(question: BlockerQuestion, now: Survey, keep: readonly number[]): Counted[] {
  const sites = new Set(now.choices.map(({ need }) => need.siteId));
  return now.prepared
    .filter(
      (one) =>
        one.kind === 'person' &&
        !isNeeded(one, question.wishes) &&
        sites.has(one.siteId ?? 0) &&
        !keep.includes(one.id) &&
        now.prepared.length > 1,
    )
    .map(({ id }): Counted => {
      const concession: Concession = { kind: 'setAside', memberId: id };
      return { concession, gains: gainOf(question, concession, now) };
    });
}

/** Concessions that ask less of everybody; each is counted by asking anew. */
function widened(question: BlockerQuestion, now: Survey, known: Interval | undefined): Counted[] {
  const { members, wishes } = question;
  const shorter = LENGTHS.filter((length) => length < wishes.lengthMinutes).slice(-3);
  const asked: Concession[] = [...shorter, ...longerLengths(question)].map((minutes) => ({
    kind: 'length',
    minutes,
  }));
  if (known && known.end > wishes.window.end) {
    asked.push({ kind: 'later', until: Math.min(known.end, wishes.window.end + 7 * DAY) });
  }
  const people = now.prepared.filter((one) => one.kind === 'person' && one.open);
  const more = (before: number, asking: (minutes: number) => Concession) => {
    const minutes = hoursMore(before, (one) => gainOf(question, asking(one), now), now);
    if (minutes !== null) asked.push(asking(minutes));
  };
  if (people.length > 0) more(wishes.stretchMinutes, (minutes) => ({ kind: 'stretch', minutes }));
  const zones = [...new Set(people.map((one) => one.zone))];
  for (const zone of zones.length > 1 ? zones : []) {
    for (const kind of ['early', 'late'] as const)
      more(wishes.stretches[zone]?.[kind] ?? 0, (minutes) => ({ kind, zone, minutes }));
  }
  if (wishes.between) asked.push({ kind: 'anyTime' });
  if (!wishes.tentativeIsFree) asked.push({ kind: 'tentative' });
  if (wishes.unknown === 'busy') asked.push({ kind: 'unknown' });
  if (wishes.places === 'fitting' && wishes.rooms.features.length > 0)
    asked.push({ kind: 'anyFeatures' });
  for (const room of members.filter((one) => one.isRoom && !one.setAside && isNeeded(one, wishes)))
    asked.push({ kind: 'otherRoom', memberId: room.id });
  return asked.map((concession) => ({ concession, gains: gainOf(question, concession, now) }));
}

/**
 * By how many minutes more to ask outside hours: an hour more; where no start is open as it is, the fewest
 * whole hours more that open one. Null where there is no more to ask.
 */
function hoursMore(before: number, gains: (minutes: number) => number, now: Survey): number | null {
  let least = before + HOUR_MINUTES;
  if (least > MOST_STRETCH) return null;
  if (now.candidates.length > 0 || gains(least) > 0) return least;
  // More hours never close what fewer open, so the fewest lie between what opens nothing and what opens.
  let most = before + Math.floor((MOST_STRETCH - before) / HOUR_MINUTES) * HOUR_MINUTES;
  if (gains(most) <= 0) return null;
  while (most - least > HOUR_MINUTES) {
    const middle = least + Math.floor((most - least) / HOUR_MINUTES / 2) * HOUR_MINUTES;
    if (gains(middle) > 0) most = middle;
    else least = middle;
  }
  return most;
}

const MOST_LONGER = 2;

/** The next lengths for which places are booked that are not booked for the one asked. */
function longerLengths({ members, wishes, surroundings }: BlockerQuestion): number[] {
  const places = [
    ...members.filter((one) => !one.setAside && isNeeded(one, wishes)),
    ...(wishes.places === 'fitting' ? surroundings.rooms : []),
  ];
  const lengths = places.flatMap(({ terms }) => {
    const least = terms ? leastAllowed(terms, wishes.lengthMinutes) : null;
    return least !== null && least > wishes.lengthMinutes ? [least] : [];
  });
  return [...new Set(lengths)].sort((a, b) => a - b).slice(0, MOST_LONGER);
}

function gainOf(question: BlockerQuestion, concession: Concession, now: Survey): number {
  const changed = conceded(question, concession);
  const after = survey(changed.members, changed.wishes, changed.surroundings);
  return after.candidates.length - now.candidates.length;
}

/** The question as it is after a concession. */
export function conceded(question: BlockerQuestion, concession: Concession): BlockerQuestion {
  const { members, wishes } = question;
  const withWishes = (changes: Partial<Wishes>) => ({
    ...question,
    wishes: { ...wishes, ...changes },
  });
  const withMember = (id: number, changes: Partial<LineUpMember>) => ({
    ...question,
    members: members.map((one) => (one.id === id ? { ...one, ...changes } : one)),
  });
  switch (concession.kind) {
    case 'setAside':
      return alone(withMember(concession.memberId, { setAside: true }));
    case 'optional':
      return withMember(concession.memberId, { role: 'optional' });
    case 'length':
      return withWishes({ lengthMinutes: concession.minutes });
    case 'later':
      return withWishes({ window: { start: wishes.window.start, end: concession.until } });
    case 'stretch':
      return withWishes({ stretchMinutes: concession.minutes });
    case 'early':
    case 'late': {
      const before = wishes.stretches[concession.zone] ?? { early: 0, late: 0 };
      const after = { ...before, [concession.kind]: concession.minutes };
      return withWishes({ stretches: { ...wishes.stretches, [concession.zone]: after } });
    }
    case 'tentative':
      return withWishes({ tentativeIsFree: true });
    case 'anyTime':
      return withWishes({ between: null });
    case 'unknown':
      return withWishes({ unknown: 'ignored' });
    case 'noRoom':
      return withWishes({
        rooms: { ...wishes.rooms, without: [...wishes.rooms.without, concession.siteId] },
      });
    case 'anyFeatures':
      return withWishes({ rooms: { ...wishes.rooms, features: [] } });
    case 'otherRoom': {
      const aside = withMember(concession.memberId, { setAside: true });
      return { ...aside, wishes: { ...wishes, places: 'fitting' } };
    }
  }
}

/** Whoever is left alone needs no notice of a meeting that is nobody else's. */
function alone(question: BlockerQuestion): BlockerQuestion {
  const { members, wishes } = question;
  const { aloneNotBefore, askerId } = wishes;
  if (aloneNotBefore === undefined || othersThan(askerId, members) > 0) return question;
  return { ...question, wishes: { ...wishes, notBefore: aloneNotBefore } };
}

/** The best start that a concession opens and that was not possible before. */
function bestAdded(question: BlockerQuestion, concession: Concession, now: Survey): Opening | null {
  const { members, wishes, surroundings } = conceded(question, concession);
  const before = new Set(now.candidates.map((slot) => slotStart(now.grid, slot)));
  const after = survey(members, wishes, surroundings);
  const added = (slot: number) => !before.has(slotStart(after.grid, slot));
  // What it opens, and nothing that is only less bad.
  const asked = { ...wishes, leastBad: false, limit: 1 };
  return rank(after, members, asked, surroundings, added).best[0] ?? null;
}
