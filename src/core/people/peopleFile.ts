import { isMailAddress } from '../mailAddress.ts';
import { plainLetters } from '../plainLetters.ts';
import { isZone } from '../time/zones.ts';
import { nameOfAddress } from './pastedPeople.ts';

/** The columns of a file of people, in the order in which they are written. */
export const PEOPLE_FILE_COLUMNS = [
  'name',
  'address',
  'work',
  'teams',
  'site',
  'zone',
  'role',
] as const;
export type PeopleFileColumn = (typeof PEOPLE_FILE_COLUMNS)[number];
export type PeopleFileRow = Partial<Record<PeopleFileColumn, string>>;

/** What headings seem to say, in the languages of offices around here; compared without accents and signs. */
const SAYS: Record<PeopleFileColumn, readonly string[]> = {
  name: [
    'name',
    'full name',
    'display name',
    'person',
    'employee',
    'navn',
    'nom',
    'nome',
    'nombre',
  ],
  address: [
    'address',
    'mail',
    'email',
    'e mail',
    'email address',
    'mail address',
    'e mail address',
    'epost',
    'e post',
    'courriel',
    'correo',
  ],
  work: [
    'work',
    'job',
    'job title',
    'title',
    'position',
    'function',
    'stilling',
    'funktion',
    'poste',
  ],
  teams: [
    'teams',
    'team',
    'group',
    'groups',
    'department',
    'dept',
    'unit',
    'avdeling',
    'abteilung',
    'equipe',
  ],
  site: ['site', 'office', 'location', 'place', 'building', 'city', 'sted', 'standort', 'lieu'],
  zone: ['zone', 'time zone', 'timezone', 'tz', 'tidssone', 'zeitzone', 'fuseau horaire'],
  role: ['role', 'roles', 'rights', 'rolle', 'droits'],
};

const plainHeading = (heading: string): string =>
  plainLetters(heading)
    .replace(/[^a-z0-9]+/g, ' ')
    .trim();

/**
 * Which column each heading of a file seems to be, each column at most once, the first of its kind; null where
 * none. Whoever knows better says so.
 */
export function matchHeadings(headings: readonly string[]): (PeopleFileColumn | null)[] {
  const taken = new Set<PeopleFileColumn>();
  const plain = headings.map(plainHeading);
  const found = plain.map((heading): PeopleFileColumn | null => {
    const column = PEOPLE_FILE_COLUMNS.find(
      (one) => !taken.has(one) && SAYS[one].includes(heading),
    );
    if (column) taken.add(column);
    return column ?? null;
  });
  // "Work e-mail" and "Your name" say it in more words.
  return found.map((column, k) => {
    if (column) return column;
    const words = plain[k]!.split(' ');
    const said = PEOPLE_FILE_COLUMNS.find(
      (one) =>
        !taken.has(one) && SAYS[one].some((word) => !word.includes(' ') && words.at(-1) === word),
    );
    if (said) taken.add(said);
    return said ?? null;
  });
}

/** What names in a file stand for. */
export interface PeopleFileNames {
  /** Sites by name and city, in plain letters. */
  siteOf: ReadonlyMap<string, { id: number; zone: string }>;
  /** Teams by name, in plain letters. */
  teamOf: ReadonlyMap<string, number>;
  /** The zone of a city; null where none is known. */
  zoneOf: (city: string) => string | null;
}

/** What a row says of somebody; what it leaves empty is left out. */
export interface ReadPerson {
  email: string;
  name?: string;
  jobTitle?: string;
  teams?: number[];
  siteId?: number;
  /** The zone that is said, or that of the site that is said. */
  zone?: string;
  role?: 'staff' | 'steward' | 'administrator';
}
export interface PersonRowProblem {
  field: PeopleFileColumn;
  message: string;
  /** What may be meant, to be taken by a click. */
  mend?: string;
}

const ROLES = ['staff', 'steward', 'administrator'] as const;

/** Somebody's row, or everything that is wrong with it. An empty cell leaves what is there as it is. */
export function readPersonRow(
  row: PeopleFileRow,
  { siteOf, teamOf, zoneOf }: PeopleFileNames,
): { person: ReadPerson } | { problems: PersonRowProblem[] } {
  const problems: PersonRowProblem[] = [];
  const cell = (column: PeopleFileColumn) => (row[column] ?? '').trim();
  const wrong = (field: PeopleFileColumn, message: string, mend?: string) =>
    void problems.push({ field, message, ...(mend !== undefined && { mend }) });
  const email = cell('address').normalize('NFC');
  if (!isMailAddress(email)) {
    const mended = email.replaceAll(',', '.').replace(/\s+/g, '');
    wrong(
      'address',
      email ? 'must be a mail address such as name@example.org' : 'must be given',
      isMailAddress(mended) ? mended : undefined,
    );
  }
  const person: ReadPerson = { email };
  for (const [column, field] of [
    ['name', 'name'],
    ['work', 'jobTitle'],
  ] as const) {
    const text = cell(column).replace(/\s+/g, ' ');
    if (text.length > LONGEST) wrong(column, `may be at most ${LONGEST} characters long`);
    else if (text) person[field] = text;
  }
  const site = cell('site');
  if (site) {
    const found = siteOf.get(plainLetters(site));
    if (found) [person.siteId, person.zone] = [found.id, found.zone];
    else wrong('site', 'must be the name or city of a site there is');
  }
  const zone = cell('zone');
  if (zone) {
    const meant = isZone(zone) ? zone : null;
    if (meant) person.zone = meant;
    else wrong('zone', 'must be a time zone such as Europe/Oslo', zoneOf(zone) ?? undefined);
  }
  const role = cell('role').toLowerCase();
  if (role) {
    const found = ROLES.find((one) => one === role);
    if (found) person.role = found;
    else wrong('role', 'must be staff, steward or administrator');
  }
  if (cell('teams')) {
    const names = cell('teams')
      .split(/;/)
      .map((one) => one.trim())
      .filter(Boolean);
    const ids = names.map((name) => teamOf.get(plainLetters(name)));
    const unknown = names.filter((_, k) => ids[k] === undefined);
    if (unknown.length > 0)
      wrong(
        'teams',
        `must be teams there are, with semicolons; not ${unknown.slice(0, 3).join(', ')}`,
      );
    else person.teams = [...new Set(ids as number[])].sort((a, b) => a - b);
  }
  return problems.length > 0 ? { problems } : { person };
}
const LONGEST = 120;

/** Somebody who is new, with what the row leaves out taken from elsewhere. */
export const newOfRow = (person: ReadPerson, usual: { siteId: number | null; zone: string }) => ({
  name: person.name ?? nameOfAddress(person.email),
  email: person.email,
  jobTitle: person.jobTitle ?? '',
  siteId: person.siteId ?? (person.zone === undefined ? usual.siteId : null),
  zone: person.zone ?? usual.zone,
  role: person.role ?? ('staff' as const),
  teams: person.teams ?? [],
});
