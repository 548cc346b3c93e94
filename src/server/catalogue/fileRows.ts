import type { z } from 'zod';
import { newPlaceRequest, type NewPlace, type RowProblem } from '../../contract/catalogue.ts';
import { readOpen } from '../../core/booking/openText.ts';
import { allRules, NO_RULES, type PlaceRules } from '../../core/booking/rules.ts';
import { LONGEST_QUOTED } from './limits.ts';
import type { KeptPlace } from './queries.ts';

/** A row of a file of places, by the names of its columns. */
export type Cells = Readonly<Record<string, string>>;

/** What a row says: a place as it is to be, and whether it is to be retired. */
export interface ReadRow {
  row: number;
  place: NewPlace;
  before: KeptPlace | undefined;
  isRetired: boolean;
  /** Whose it is to be: null for nobody's, undefined where it says nothing of that. */
  ownerId: number | null | undefined;
}

/** What names in a file stand for, in small letters. */
export interface NamesInFile {
  siteOf: ReadonlyMap<string, number>;
  teamOf: ReadonlyMap<string, number>;
  /** People by their addresses. */
  personOf: ReadonlyMap<string, number>;
}

/** A file of places, and what it is read against. */
export interface FileOfPlaces {
  rows: readonly Cells[];
  names: NamesInFile;
  /** The places that are there, by `keyOf`. */
  there: ReadonlyMap<string, KeptPlace>;
}

type Given = z.input<typeof newPlaceRequest>;

/** Columns that hold a number of something, each with its field. */
export const AMOUNTS = {
  seats: 'capacity',
  units: 'units',
  'minutes before': 'prepareMinutes',
  'minutes after': 'clearMinutes',
} as const;
/** Columns that hold a bound of bookings, or none, each with its rule. */
export const BOUNDS = {
  'shortest minutes': 'shortestMinutes',
  'longest minutes': 'longestMinutes',
  'step minutes': 'stepMinutes',
  'notice minutes': 'noticeMinutes',
  'days ahead': 'horizonDays',
  'minutes a week': 'weeklyMinutes',
  'grace minutes': 'graceMinutes',
} as const;
/** What lifts a rule; a cell that is empty leaves it as it is. */
export const LIFTED = 'none';

/** The columns there are, each with the field of a place that it gives. */
const FIELD_OF: Record<string, string> = {
  name: 'name',
  kind: 'kind',
  site: 'siteId',
  floor: 'floor',
  features: 'features',
  description: 'description',
  ...AMOUNTS,
  open: 'open',
  ...BOUNDS,
  teams: 'teams',
  approval: 'approval',
  'price an hour': 'hourlyPrice',
  whose: 'ownerId',
  retired: 'retired',
};
/** The columns, in the order in which they are written. */
export const FILE_COLUMNS = Object.keys(FIELD_OF);
const COLUMN_OF = new Map(Object.entries(FIELD_OF).map(([column, field]) => [field, column]));

/** How a field of a place is called in a file. */
export const fileColumnOf = (field: string): string => COLUMN_OF.get(field) ?? field;

export const keyOf = ({ siteId, name }: { siteId?: number | undefined; name?: string }): string =>
  `${siteId} ${(name ?? '').trim().toLowerCase()}`;

/**
 * Reads all rows of a file.
 * @returns what those say that can be read, and what is wrong with the others
 */
export function readRows({ rows, names, there }: FileOfPlaces): {
  read: ReadRow[];
  problems: RowProblem[];
} {
  const read: ReadRow[] = [];
  const problems: RowProblem[] = strangeColumns(rows);
  rows.forEach((cells, k) => {
    const found = readRow(cells, k + 1, names, there);
    if (Array.isArray(found)) problems.push(...found);
    else read.push(found);
  });
  return { read, problems };
}

/** Columns that there are none of: said once, of the heading. */
const strangeColumns = (rows: readonly Cells[]): RowProblem[] =>
  [...new Set(rows.flatMap((cells) => Object.keys(cells)))]
    .filter((column) => !Object.hasOwn(FIELD_OF, column))
    .map((field) => ({
      row: 0,
      field,
      message: `is no column; there are ${Object.keys(FIELD_OF).join(', ')}`,
    }));

/** What stands in a cell, before what is wrong with it. */
function quoted(text: string | undefined, message: string): string {
  const said = text?.trim() ?? '';
  if (said === '') return message;
  const short = said.length > LONGEST_QUOTED ? `${said.slice(0, LONGEST_QUOTED)}…` : said;
  return `“${short}” ${message}`;
}

/**
 * Reads a row as a place: what it does not say stays as it is, or is as usual.
 * @param row its number, from 1
 * @param there the places that are there, by `keyOf`
 * @returns what it says, or what is wrong with it
 */
function readRow(
  cells: Cells,
  row: number,
  names: NamesInFile,
  there: ReadonlyMap<string, KeptPlace>,
): ReadRow | RowProblem[] {
  const problems: RowProblem[] = [];
  const add = (field: string, message: string) =>
    problems.push({ row, field, message: quoted(cells[field], message) });
  const siteId = names.siteOf.get(cell(cells, 'site'));
  const before = there.get(keyOf({ siteId, name: cells.name ?? '' }));
  const given = {
    ...factsOf(cells, before),
    siteId: siteId ?? 0,
    rules: rulesOf(cells, before, names, add),
  };
  const isRetired = yesOrNo(cell(cells, 'retired'), false);
  if (isRetired === null) add('retired', 'must be yes or no');
  const whose = whoseIn(cells);
  const ownerId = typeof whose === 'string' ? names.personOf.get(whose) : whose;
  if (whose && ownerId === undefined) add('whose', 'must be the address of somebody here, or none');
  const parsed = newPlaceRequest.safeParse(given);
  for (const { path, message } of parsed.error?.issues ?? []) {
    const column = fileColumnOf(String(path[0] === 'rules' ? path[1] : path[0]));
    add(column, column === 'site' ? 'must be the name of a site' : message);
  }
  if (parsed.success && isRetired && !before) add('retired', 'must be no for a place that is new');
  if (!parsed.success || problems.length > 0) return problems;
  return { row, place: parsed.data, before, isRetired: isRetired === true, ownerId };
}

const cell = (cells: Cells, column: string): string => (cells[column] ?? '').trim().toLowerCase();

/** The address of whoever a row gives a place to: null for nobody, undefined where it says nothing. */
export function whoseIn(cells: Cells): string | null | undefined {
  const text = cell(cells, 'whose');
  return text === '' ? undefined : text === LIFTED ? null : text;
}

const listOf = (text: string): string[] =>
  text
    .split(';')
    .map((one) => one.trim())
    .filter(Boolean);

/** `yes` and `no`; null for anything else. */
function yesOrNo(text: string, usual: boolean): boolean | null {
  if (text === '') return usual;
  return text === 'yes' ? true : text === 'no' ? false : null;
}

function factsOf(cells: Cells, before: KeptPlace | undefined): Omit<Given, 'rules' | 'siteId'> {
  const words = (column: string, usual: string) =>
    column in cells ? cells[column]!.trim() : usual;
  const amount = (column: keyof typeof AMOUNTS, usual: number) => {
    const text = cell(cells, column);
    return text === '' ? (before?.[AMOUNTS[column]] ?? usual) : Number(text);
  };
  return {
    name: cells.name ?? '',
    kind: (cell(cells, 'kind') || before?.kind || 'room') as NewPlace['kind'],
    floor: words('floor', before?.floor ?? ''),
    capacity: amount('seats', 0),
    units: amount('units', 1),
    description: words('description', before?.description ?? ''),
    features: 'features' in cells ? listOf(cells.features!) : (before?.features ?? []),
    prepareMinutes: amount('minutes before', 0),
    clearMinutes: amount('minutes after', 0),
  };
}

function rulesOf(
  cells: Cells,
  before: KeptPlace | undefined,
  { teamOf }: NamesInFile,
  add: (field: string, message: string) => void,
): Given['rules'] {
  const rules: PlaceRules = { ...NO_RULES, ...allRules(before?.rules ?? {}) };
  const said = (column: string, take: (text: string) => void, lift: () => void) => {
    const text = (cells[column] ?? '').trim();
    if (text === '') return;
    if (text.toLowerCase() === LIFTED) lift();
    else take(text);
  };
  for (const [column, rule] of Object.entries(BOUNDS))
    said(
      column,
      (text) => (rules[rule] = Number(text)),
      () => (rules[rule] = null),
    );
  said(
    'open',
    (text) => {
      const open = readOpen(text);
      if (open) rules.open = open;
      else add('open', 'must be days and hours such as Mon–Fri 08:00–18:00; Sat 9–12, or none');
    },
    () => (rules.open = null),
  );
  said(
    'teams',
    (text) => {
      const teams = listOf(text).map((name) => teamOf.get(name.toLowerCase()));
      if (teams.every((id) => id !== undefined)) rules.teams = teams;
      else add('teams', 'must be names of teams, or none');
    },
    () => (rules.teams = null),
  );
  said(
    'approval',
    (text) => {
      const needed = yesOrNo(text.toLowerCase(), false);
      if (needed === null) add('approval', 'must be yes or no');
      else rules.approval = needed || null;
    },
    () => (rules.approval = null),
  );
  said(
    'price an hour',
    (text) => {
      const found = /^(\d{1,7}(?:\.\d{1,2})?)\s*([A-Za-z]{3})$/.exec(text);
      if (!found) return add('price an hour', 'must be an amount such as 600 NOK, or none');
      const currency = found[2]!.toUpperCase();
      rules.hourlyPrice = { hundredths: Math.round(Number(found[1]) * 100), currency };
    },
    () => (rules.hourlyPrice = null),
  );
  // In the form in which they are asked for, whose lists can be written.
  return structuredClone(rules) as Given['rules'];
}
