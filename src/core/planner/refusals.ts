import { termInWords } from '../booking/ruleWords.ts';
import { brokenByLength } from '../booking/terms.ts';
import { formatBetween, formatLength } from '../time/format.ts';
import { MINUTE } from '../time/interval.ts';
import type { BlockerQuestion } from './blockers.ts';
import { isNeeded } from './lineUp.ts';
import { survey } from './survey.ts';
import type { Wishes } from './wishes.ts';
import { givenName, listNames } from './words.ts';

/** Shorter than this nobody meets. */
const SHORTEST_MINUTES = 15;

const LACKING = {
  length: (_: number, length: string) => `can be booked for ${length}`,
  seats: (people: number) => `has ${people} seats`,
  features: () => 'has all that was asked for',
  name: () => 'has such a name',
} as const;

/**
 * Why there is no opening at all, in a sentence or two; null where there is one. The gravest
 * reason is told: a window that is over, a length that fits nobody's day, somebody of whom nothing
 * is known, a site without a fitting room, somebody who never can.
 */
export function whyNothing(question: BlockerQuestion): string | null {
  const { members, wishes, surroundings } = question;
  const found = survey(members, wishes, surroundings);
  if (found.prepared.length === 0) {
    return members.length === 0
      ? 'The line-up is empty.'
      : 'Everyone is set aside. Bring somebody back to see when they can.';
  }
  if (found.candidates.length > 0) return null;
  const length = formatLength(wishes.lengthMinutes * MINUTE);
  if (wishes.notBefore >= wishes.window.end) return 'These days are over. Look from today on.';
  if (found.from >= found.to) {
    return `${length} do not fit into the days looked at. Look at more days, or shorten it.`;
  }
  if (
    wishes.between &&
    survey(members, { ...wishes, between: null }, surroundings).candidates.length > 0
  )
    return `Nothing suits all ${formatBetween(wishes.between, '24')}; at other times of the day something does.`;
  const noRoom = found.choices.find(({ need }) => need.fitting.length === 0)?.need;
  if (noRoom) {
    return `No room at ${noRoom.site} ${LACKING[noRoom.lacking ?? 'name'](Math.max(noRoom.people, wishes.rooms.seats ?? 0), length)}.`;
  }
  const needed = found.prepared.filter((one) => isNeeded(one, wishes));
  for (const { name, terms } of needed) {
    const [broken] = terms ? brokenByLength(terms, wishes.lengthMinutes) : [];
    if (broken) return `${name} ${termInWords(broken)}, and this lasts ${length}.`;
  }
  const silent = needed.filter((one) => one.knowledge === 'none');
  if (silent.length > 0 && wishes.unknown === 'busy') {
    const names = listNames(silent.map((one) => one.name));
    return `${names} ${silent.length === 1 ? 'shares' : 'share'} nothing of when they are busy, so no time counts as free. Make them optional, or choose that time of which nothing is known may be used.`;
  }
  return tooLong(question) ?? nobodyEver(question, found.blocked.length);
}

/** Said where the length fits between nobody's hours, whatever they have on. */
function tooLong({ members, wishes, surroundings }: BlockerQuestion): string | null {
  const nothing = { busy: [], changeovers: [], terms: null, knowledge: 'known' as const };
  const idle = members.map((one) => ({ ...one, ...nothing }));
  if (survey(idle, wishes, { ...surroundings, rooms: [] }).candidates.length > 0) return null;
  const alone = idle.filter(
    (one) =>
      !one.setAside &&
      one.kind === 'person' &&
      survey([one], wishes).candidates.length === 0 &&
      isNeeded(one, wishes),
  );
  const length = formatLength(wishes.lengthMinutes * MINUTE);
  if (alone.length > 0) {
    return `${length} are longer than the working day of ${listNames(alone.map(givenName))}. Shorten it, or allow hours outside.`;
  }
  return `Their working hours never overlap for ${length}, even on empty days. Allow an earlier or later hour for somebody.`;
}

function nobodyEver({ members, wishes, surroundings }: BlockerQuestion, slots: number): string {
  const isFree = (changes: Partial<Wishes>) =>
    survey(members, { ...wishes, ...changes }, surroundings).candidates.length > 0;
  // Days that show everybody free are not called never: what keeps a meeting from there is said.
  if (isFree({ notBefore: wishes.window.start })) {
    const now = wishes.now ?? wishes.window.start;
    const lead = formatLength(Math.max(MINUTE, wishes.notBefore - now));
    return `All of them are free together only sooner than ${lead} from now. Let it begin sooner, or look at more days.`;
  }
  const never = members.filter(
    (one) =>
      !one.setAside && isNeeded(one, wishes) && survey([one], wishes).candidates.length === 0,
  );
  if (slots > 0 && never.length > 0) {
    const names = listNames(
      never.map((one) => (one.kind === 'person' ? givenName(one) : one.name)),
    );
    return `${names} ${never.length === 1 ? 'has' : 'have'} no free ${formatLength(wishes.lengthMinutes * MINUTE)} in these days.`;
  }
  const length = formatLength(wishes.lengthMinutes * MINUTE);
  return isFree({ lengthMinutes: SHORTEST_MINUTES })
    ? `All of them are free together now and then, but never for ${length}.`
    : 'Each of them has free time in these days, but never all of them at once.';
}
