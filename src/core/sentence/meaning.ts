import { nameIn, type Named, type Spelling } from './names.ts';
import { JOINERS, longest, type Word } from './words.ts';

/** What a sentence can name. */
export interface SentenceNames {
  people: readonly Named[];
  teams: readonly (Named & { memberIds: readonly number[] })[];
  resources: readonly (Named & { kind: string })[];
  sites: readonly (Named & { city: string; zone: string })[];
  /** What rooms have, by name. */
  features: readonly string[];
}

/** Longer names than this have no more words. */
export const MOST_WORDS = 4;

/** What a run of words names. */
export type Meaning =
  | { kind: 'team'; team: SentenceNames['teams'][number] }
  | { kind: 'person'; best: Named; others: readonly Named[] }
  | { kind: 'resource'; best: Named; others: readonly Named[] }
  | { kind: 'site'; site: Named };

export function placeNamed(text: string, names: SentenceNames, spelling: Spelling): Meaning | null {
  const resource = nameIn(text, names.resources, { ...spelling, whole: true });
  if (resource) return { kind: 'resource', ...resource };
  const cities = citiesOf(names);
  const site =
    nameIn(text, cities, spelling) ?? nameIn(text, names.sites, { ...spelling, whole: true });
  return site ? { kind: 'site', site: site.best } : null;
}

const cities = new WeakMap<SentenceNames['sites'], Named[]>();
function citiesOf({ sites }: SentenceNames): Named[] {
  let known = cities.get(sites);
  if (!known) cities.set(sites, (known = sites.map(({ id, city }) => ({ id, name: city }))));
  return known;
}

export function whoNamed(text: string, names: SentenceNames, spelling: Spelling): Meaning | null {
  const team = nameIn(text, names.teams, { ...spelling, whole: true });
  const person = nameIn(text, names.people, spelling);
  // The whole name of a team comes before a part of somebody's.
  if (team && (!person || text.includes(' ') || !spelling.exact))
    return { kind: 'team', team: team.best as SentenceNames['teams'][number] };
  if (person) return { kind: 'person', ...person };
  return team ? { kind: 'team', team: team.best as SentenceNames['teams'][number] } : null;
}

/** A run that begins or ends with a word that joins is no name. */
export function named<T>(
  words: readonly Word[],
  at: number,
  read: (text: string, spelling: Spelling) => T | null,
): { value: T; count: number; text: string } | null {
  const whole = (spelling: Spelling) => (text: string) => {
    const parts = text.split(' ');
    const ends = [parts[0]!, parts.at(-1)!];
    return ends.some((word) => JOINERS.test(word)) ? null : read(text, spelling);
  };
  return (
    longest(words, at, MOST_WORDS, whole({ exact: true })) ??
    longest(words, at, MOST_WORDS, whole({}))
  );
}
