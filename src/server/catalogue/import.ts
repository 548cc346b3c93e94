import { z } from 'zod';
import {
  newPlaceRequest,
  type ImportRequest,
  type ImportResponse,
  type NewPlace,
  type RowProblem,
} from '../../contract/catalogue.ts';
import { NO_RULES } from '../../core/booking/rules.ts';
import { same } from '../../core/same.ts';
import type { PersonActor } from '../actions/index.ts';
import { requireSteward } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import { announce, subjectOf } from '../live/index.ts';
import { allRules } from '../reservations/index.ts';
import {
  insertPlaces,
  lockSites,
  readChoices,
  readPlacesOf,
  updatePlaces,
  type KeptPlace,
} from './queries.ts';

const COLUMNS = [
  'name',
  'kind',
  'site',
  'floor',
  'seats',
  'units',
  'features',
  'description',
  'minutes before',
  'minutes after',
] as const;
type Column = (typeof COLUMNS)[number];

/** How the fields of a place are called in a file. */
const COLUMN_OF: Record<string, Column> = {
  name: 'name',
  kind: 'kind',
  siteId: 'site',
  floor: 'floor',
  capacity: 'seats',
  units: 'units',
  features: 'features',
  description: 'description',
  prepareMinutes: 'minutes before',
  clearMinutes: 'minutes after',
};

/** What is looked at with the bookings that stand, and so on the place's card. */
const WITH_BOOKINGS = ['units', 'prepareMinutes', 'clearMinutes'] as const;

interface Read {
  row: number;
  place: NewPlace;
  before: KeptPlace | undefined;
}

/**
 * Adds the places of a file, and changes those that are there already by their site and name. While
 * anything is wrong with any row nothing is done.
 */
export async function importPlaces(
  tx: Transaction,
  actor: PersonActor,
  { rows, check = true }: ImportRequest,
): Promise<ImportResponse> {
  requireSteward(actor);
  const { sites } = await readChoices(tx);
  const siteOf = new Map(sites.map((one) => [one.name.toLowerCase(), one.id]));
  await lockSites(
    tx,
    sites.map((one) => one.id),
  );
  const there = new Map(
    (await readPlacesOf(tx, [...siteOf.values()])).map((one) => [keyOf(one), one]),
  );
  const problems: RowProblem[] = [];
  const read: Read[] = [];
  const seen = new Set<string>();
  rows.forEach((cells, k) => {
    const row = k + 1;
    const add = (field: string, message: string) => problems.push({ row, field, message });
    for (const column of Object.keys(cells))
      if (!(COLUMNS as readonly string[]).includes(column))
        add(column, `is no column; there are ${COLUMNS.join(', ')}`);
    const before = there.get(keyOf({ siteId: siteOf.get(cell(cells, 'site')), name: cells.name }));
    const parsed = newPlaceRequest.safeParse(placeOf(cells, siteOf, before));
    if (!parsed.success) {
      for (const { path, message } of parsed.error.issues) {
        const column = COLUMN_OF[String(path[0])] ?? String(path[0]);
        add(column, column === 'site' ? 'must be the name of a site' : message);
      }
      return;
    }
    const place = parsed.data;
    if (seen.has(keyOf(place))) add('name', 'must stand once for its site in the file');
    seen.add(keyOf(place));
    for (const field of WITH_BOOKINGS)
      if (before && before[field] !== place[field])
        add(
          COLUMN_OF[field]!,
          `must be ${before[field]}, as it is; it is changed on the place’s card`,
        );
    read.push({ row, place, before });
  });
  const added = read.filter((one) => !one.before);
  const changed = read.filter((one) => one.before && !isSame(one.before, one.place));
  if (problems.length === 0 && !check) {
    const ids =
      added.length > 0
        ? await insertPlaces(
            tx,
            added.map((one) => one.place),
          )
        : [];
    const updated = changed.map(({ place, before }) => ({ ...place, id: before!.id }));
    if (updated.length > 0) updatePlaces(tx, updated);
    announce(
      tx,
      [...ids, ...updated.map((one) => one.id)].map((id) => subjectOf('resource', id)),
    );
  }
  return {
    added: added.length,
    changed: changed.length,
    same: read.length - added.length - changed.length,
    problems,
  };
}

const keyOf = ({ siteId, name }: { siteId?: number | undefined; name?: string | undefined }) =>
  `${siteId} ${(name ?? '').trim().toLowerCase()}`;

const cell = (cells: Record<string, string>, column: Column): string =>
  (cells[column] ?? '').trim().toLowerCase();

const isSame = ({ rules, ...before }: KeptPlace, place: NewPlace): boolean =>
  same(
    { ...place, rules: allRules(rules) },
    Object.fromEntries(
      Object.keys(place).map((key) => [
        key,
        key === 'rules' ? allRules(rules) : before[key as keyof typeof before],
      ]),
    ),
  );

/** A row as a place: what its file does not say stays as it is, or is as usual. */
function placeOf(
  cells: Record<string, string>,
  siteOf: ReadonlyMap<string, number>,
  before: KeptPlace | undefined,
): z.input<typeof newPlaceRequest> {
  const amount = (column: Column, usual: number) => {
    const text = cell(cells, column);
    return text === '' ? usual : Number(text);
  };
  const words = (column: Column, usual: string) =>
    column in cells ? cells[column]!.trim() : usual;
  return {
    name: cells.name ?? '',
    kind: (cell(cells, 'kind') || before?.kind || 'room') as NewPlace['kind'],
    siteId: siteOf.get(cell(cells, 'site')) ?? 0,
    floor: words('floor', before?.floor ?? ''),
    capacity: amount('seats', before?.capacity ?? 0),
    units: amount('units', before?.units ?? 1),
    description: words('description', before?.description ?? ''),
    features:
      'features' in cells
        ? cells
            .features!.split(';')
            .map((one) => one.trim())
            .filter(Boolean)
        : (before?.features ?? []),
    prepareMinutes: amount('minutes before', before?.prepareMinutes ?? 0),
    clearMinutes: amount('minutes after', before?.clearMinutes ?? 0),
    rules: copyOf(allRules(before?.rules ?? NO_RULES)),
  };
}

/** The rules in the form in which they are asked for, whose lists can be written. */
const copyOf = (rules: unknown): z.input<typeof newPlaceRequest>['rules'] =>
  structuredClone(rules) as z.input<typeof newPlaceRequest>['rules'];
