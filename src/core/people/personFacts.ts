import type { Edit, Values } from '../edits.ts';
import {
  chargeInWords,
  reachOfValues,
  valuesOfReach,
  type Charge,
  type ReachValues,
} from './reach.ts';

/** Somebody by their name at that moment. */
interface Named {
  name: string;
}

/** What happens to a person, and what of it is kept besides. */
export interface PersonFactDetails {
  'person-added': Named;
  'person-changed': Named & { edits: readonly Edit[] };
  /** Their access ended: they sign in no more. */
  'person-ended': Named;
  /** They left, and all that they had to come was handed over, given back or ended. */
  'person-left': Named;
  /** Their name and address were let go of, for good. */
  'person-forgotten': Named;
  /** They may sign in again. */
  'person-returned': Named;
  /** A letter of welcome was written to them. */
  'person-welcomed': Named;
  /** A link of welcome was made to be handed over in person. */
  'person-link-made': Named;
  /** They were taken back as if they had never been added. */
  'person-removed': Named;
}
export const PERSON_FACT_KINDS = [
  'person-added',
  'person-changed',
  'person-ended',
  'person-left',
  'person-forgotten',
  'person-returned',
  'person-welcomed',
  'person-link-made',
  'person-removed',
] as const satisfies readonly (keyof PersonFactDetails)[];

/**
 * Whether somebody can sign in: nobody's account (a partner's people), one that waits for its password, one that
 * is used, one that ended, or one that was taken back before it was used.
 */
export const ACCOUNT_STATES = ['none', 'invited', 'active', 'ended', 'removed'] as const;
export type AccountState = (typeof ACCOUNT_STATES)[number];

/** What of a person an administrator settles, one by one. */
export interface PersonValues extends ReachValues {
  name: string;
  email: string;
  jobTitle: string;
  siteId: number | null;
  zone: string;
  role: string;
  teams: readonly number[];
  account: AccountState;
}

export const valuesOfPerson = (person: PersonValues): Values =>
  new Map<string, unknown>([
    ['name', person.name],
    ['email', person.email],
    ['jobTitle', person.jobTitle],
    ['siteId', person.siteId],
    ['zone', person.zone],
    ['role', person.role],
    ['teams', [...person.teams].sort((a, b) => a - b)],
    ...valuesOfReach(person),
    ['account', person.account],
  ]);

export const personOfValues = (values: Values): PersonValues => ({
  name: values.get('name') as string,
  email: values.get('email') as string,
  jobTitle: values.get('jobTitle') as string,
  siteId: values.get('siteId') as number | null,
  zone: values.get('zone') as string,
  role: values.get('role') as string,
  teams: values.get('teams') as number[],
  ...reachOfValues(values),
  account: values.get('account') as AccountState,
});

/** What ids in edits stand for. */
export interface PersonWords {
  nameOf: (what: 'site' | 'team' | 'place' | 'person', id: number) => string;
}

type InWords = (value: never, words: PersonWords) => string;
const plain: InWords = (value: unknown) =>
  value === null || value === '' ? 'none' : String(value);

const teamsInWords = (teams: readonly number[] | null, { nameOf }: PersonWords): string =>
  teams && teams.length > 0
    ? teams
        .map((id) => nameOf('team', id))
        .sort()
        .join(', ')
    : 'none';

/** How the values of a person are called, and said. */
const FIELDS: Record<string, [name: string, say: InWords]> = {
  name: ['name', plain],
  email: ['address', plain],
  jobTitle: ['work', plain],
  siteId: ['site', (id: number | null, { nameOf }) => (id === null ? 'none' : nameOf('site', id))],
  zone: ['zone', plain],
  role: ['role', plain],
  teams: ['teams', (teams: readonly number[] | null, words) => teamsInWords(teams, words)],
  reach: [
    'what they look after',
    (reach: readonly Charge[] | null, { nameOf }) =>
      reach && reach.length > 0
        ? reach.map((one) => chargeInWords(one, nameOf)).join(', ')
        : 'no place named',
  ],
  deputyId: [
    'deputy',
    (id: number | null, { nameOf }) => (id === null ? 'nobody' : nameOf('person', id)),
  ],
  coordinates: [
    'teams they coordinate',
    (teams: readonly number[] | null, words) => teamsInWords(teams, words),
  ],
};

/** How values that edits are about are called, in their order. */
export const personFieldNames = (edits: readonly Edit[]): string[] =>
  edits.flatMap(({ path }) => FIELDS[path]?.[0] ?? []);

/** What edits of a person did, a clause each, such as `site Skerry House → Bluff Station`. */
export const personEditsInWords = (edits: readonly Edit[], words: PersonWords): string[] =>
  edits.flatMap(({ path, from, to }) => {
    const field = FIELDS[path];
    if (!field) return [];
    const [name, say] = field;
    return [`${name} ${say(from as never, words)} → ${say(to as never, words)}`];
  });

/** What happened to a person, as it stands behind the name of whoever did it. */
export function personFactInWords<Kind extends keyof PersonFactDetails>(
  kind: Kind,
  details: PersonFactDetails[Kind],
  words: PersonWords,
): string {
  const say: { [K in keyof PersonFactDetails]: (details: PersonFactDetails[K]) => string } = {
    'person-added': () => 'added them',
    'person-changed': ({ edits }) => `changed ${personEditsInWords(edits, words).join('; ')}`,
    'person-ended': () => 'ended their access',
    'person-left': () => 'let them leave, with all that they had to come',
    'person-forgotten': () => 'had them forgotten',
    'person-returned': () => 'let them sign in again',
    'person-welcomed': () => 'wrote them a letter of welcome',
    'person-link-made': () => 'made a link of welcome to hand over',
    'person-removed': () => 'took back that they were added',
  };
  return say[kind](details);
}
