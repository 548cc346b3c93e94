import { openWords } from '../../core/booking/ruleWords.ts';
import { allRules } from '../../core/booking/rules.ts';
import { requireSteward } from '../access/index.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Database } from '../db/transaction.ts';
import { csvLine } from '../http/index.ts';
import { contactsById } from '../people/index.ts';
import { readTeamNames } from '../reservations/index.ts';
import { AMOUNTS, BOUNDS, FILE_COLUMNS, LIFTED } from './fileRows.ts';
import { readAllPlaces, type KeptPlace } from './queries.ts';

/** What the ids of a place stand for in a file. */
interface Names {
  siteOf: ReadonlyMap<number, string>;
  teamOf: ReadonlyMap<number, string>;
  addressOf: ReadonlyMap<number, string>;
}

/**
 * All places as a file (CSV, RFC 4180) with the columns that a file of places is read by: read again, it changes
 * nothing.
 * @throws Refusal unless the actor looks after places
 */
export async function placesFile(db: Database, actor: PersonActor): Promise<string> {
  requireSteward(actor);
  const { places, sites } = await readAllPlaces(db);
  const [teamOf, owners] = await Promise.all([
    readTeamNames(
      db,
      places.flatMap(({ rules }) => rules.teams ?? []),
    ),
    contactsById(
      db,
      places.flatMap(({ ownerId }) => ownerId ?? []),
    ),
  ]);
  const names = {
    teamOf,
    siteOf: sites,
    addressOf: new Map([...owners].map(([id, { email }]) => [id, email])),
  };
  const lines = places.map((one) => {
    const cells = cellsOf(one, names);
    return csvLine(FILE_COLUMNS.map((column) => cells[column] ?? ''));
  });
  return csvLine(FILE_COLUMNS) + lines.join('');
}

function cellsOf(place: KeptPlace, { siteOf, teamOf, addressOf }: Names): Record<string, string> {
  const rules = allRules(place.rules);
  const orNone = (text: string | null) => text ?? LIFTED;
  const number = (value: number | null) => orNone(value === null ? null : String(value));
  return {
    name: place.name,
    kind: place.kind,
    site: siteOf.get(place.siteId) ?? '',
    floor: place.floor,
    features: place.features.join('; '),
    description: place.description,
    ...Object.fromEntries(
      Object.entries(AMOUNTS).map(([column, field]) => [column, String(place[field])]),
    ),
    open: orNone(rules.open && openWords(rules.open, '24')),
    ...Object.fromEntries(
      Object.entries(BOUNDS).map(([column, rule]) => [column, number(rules[rule])]),
    ),
    teams: orNone(rules.teams && rules.teams.flatMap((id) => teamOf.get(id) ?? []).join('; ')),
    approval: rules.approval ? 'yes' : 'no',
    'price an hour': orNone(
      rules.hourlyPrice && `${rules.hourlyPrice.hundredths / 100} ${rules.hourlyPrice.currency}`,
    ),
    whose: orNone(place.ownerId === null ? null : (addressOf.get(place.ownerId) ?? null)),
    retired: place.isRetired ? 'yes' : 'no',
  };
}
