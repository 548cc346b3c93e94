import { addressKey } from '../../core/mailAddress.ts';
import type {
  ImportRequest,
  ImportResponse,
  NewPlace,
  PlaceAgainst,
  RowProblem,
} from '../../contract/catalogue.ts';
import { counted } from '../../core/counted.ts';
import { grouped } from '../../core/grouped.ts';
import { allRules } from '../../core/booking/rules.ts';
import { same } from '../../core/same.ts';
import { dateAt } from '../../core/time/wall.ts';
import type { PersonActor } from '../actions/index.ts';
import { may, OUT_OF_REACH, requireSteward, withinReach } from '../access/index.ts';
import type { Transaction } from '../db/transaction.ts';
import { commitThings } from '../facts/index.ts';
import { cellOf } from '../http/index.ts';
import { findContacts, type Contact } from '../people/index.ts';
import { reader } from '../reading/index.ts';
import { updateOwners } from '../places/index.ts';
import type { Platform } from '../platform.ts';
import {
  fileColumnOf,
  keyOf,
  whoseIn,
  type Cells,
  type FileOfPlaces,
  type ReadRow,
} from './fileRows.ts';
import {
  insertPlaces,
  lockPlaces,
  lockSites,
  readChoices,
  readComing,
  readPlacesOf,
  readRetiredOf,
  retirePlaces,
  updatePlaces,
  type Coming,
  type KeptPlace,
} from './queries.ts';
import {
  newlyAgainst,
  readTouched,
  readWords,
  applyToBookings,
  touchesBookings,
  whyNot,
  type ResourceChange,
} from './resourceChanges.ts';
import {
  placeAdded,
  placeChanged,
  placeRetired,
  placeReturned,
  returnTogether,
} from './service.ts';
import { MOST_COMING } from './limits.ts';

const readFile = reader<FileOfPlaces, { read: ReadRow[]; problems: RowProblem[] }>(
  new URL('./fileRows.worker.ts', import.meta.url),
  'The file',
);

/** A row about a place that is there. */
interface Change extends ResourceChange {
  row: number;
  isRetired: boolean;
  /** Whether it becomes somebody else's, or nobody's any more. */
  isOwnedAnew: boolean;
  ownerId: ReadRow['ownerId'];
}

/**
 * Adds the places of a file, changes those that are there already by their site and name, and retires
 * those that it says are. While anything is wrong with any row nothing is done.
 */
export async function importPlaces(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  { rows: written, check = true }: ImportRequest,
): Promise<ImportResponse> {
  requireSteward(actor);
  const rows = written.map((cells) =>
    Object.fromEntries(Object.entries(cells).map(([column, cell]) => [column, cellOf(cell)])),
  );
  const now = platform.clock.now();
  const { sites, teams } = await readChoices(tx);
  const byName = (some: typeof sites) =>
    new Map(some.map((one) => [one.name.toLowerCase(), one.id]));
  const owners = await readOwners(tx, rows);
  const names = { siteOf: byName(sites), teamOf: byName(teams), personOf: idsOf(owners) };
  const siteIds = sites.map((one) => one.id);
  await lockSites(tx, siteIds);
  // What was retired is brought back by a row of its name.
  const [past, present] = [await readRetiredOf(tx, siteIds), await readPlacesOf(tx, siteIds)];
  const there = new Map([...past, ...present].map((one) => [keyOf(one), one]));
  const { read, problems } = await readFile({ rows, names, there });
  problems.push(...twice(read));
  const added = read.filter((one) => !one.before);
  const changes = read.flatMap(({ row, before, place: after, isRetired, ownerId }): Change[] => {
    if (!before) return [];
    const isOwnedAnew = ownerId !== undefined && ownerId !== before.ownerId;
    if (isRetired === before.isRetired && !isOwnedAnew && isSame(before, after)) return [];
    if (isRetired && before.isRetired) return [];
    return [{ row, before, after, isRetired, isOwnedAnew, ownerId }];
  });
  problems.push(...(await outOfReach(tx, actor, added, changes)));
  const retired = changes.filter((one) => one.isRetired);
  const returned = changes.filter(({ before, isRetired }) => before.isRetired && !isRetired);
  const changed = changes.filter((one) => !one.isRetired);
  // What was read of a place that others change meanwhile does not hold any more.
  lockPlaces(
    tx,
    changes.map(({ before }) => before.id),
  );
  const asked = changes.filter(
    (one) => one.isRetired || one.isOwnedAnew || touchesBookings(one) || !isSameRules(one),
  );
  const bookings = await readComing(
    tx,
    asked.map(({ before }) => before.id),
    now,
    MOST_COMING + 1,
  );
  const isTooMuch = bookings.length > MOST_COMING;
  if (isTooMuch)
    problems.push({
      row: asked[0]!.row,
      field: 'name',
      message: `must be of fewer places at once: they have more than ${MOST_COMING} bookings to come`,
    });
  const coming = grouped(bookings, (one) => one.placeId);
  problems.push(...stillBooked(retired, coming));
  const touching = isTooMuch ? [] : changed.filter(touchesBookings);
  const touched = await readTouched(tx, touching, now, coming);
  problems.push(...refused(touching, touched, actor));
  const undo: number[] = [];
  if (problems.length === 0 && !check) {
    const ids =
      added.length > 0
        ? await insertPlaces(
            tx,
            added.map((one) => one.place),
          )
        : [];
    applyToBookings(tx, touching, touched, now);
    const updated = changed.filter(({ before, after }) => !isSame(before, after));
    if (updated.length > 0)
      updatePlaces(
        tx,
        updated.map(({ before, after }) => ({ ...after, id: before.id })),
      );
    const owned = [
      ...added.flatMap(({ ownerId }, k) =>
        ownerId ? [{ id: ids[k]!, ownerId, zone: 'UTC' }] : [],
      ),
      ...changed
        .filter((one) => one.isOwnedAnew)
        .map(({ before: { id, zone }, ownerId }) => ({ id, zone, ownerId: ownerId ?? null })),
    ];
    if (owned.length > 0)
      await updateOwners(
        tx,
        owned.map(({ id, ownerId, zone }) => ({ id, ownerId, today: dateAt(now, zone) })),
      );
    const gone = retired.map(({ before }) => before.id);
    if (gone.length > 0) retirePlaces(tx, gone, now);
    const backIds = returned.map(({ before }) => before.id);
    const back = await returnTogether(tx, backIds, now);
    const done = await commitThings(tx, platform, actor, [
      ...added.map(({ place }, k) => placeAdded(ids[k]!, place.name)),
      ...retired.map(({ before }) => placeRetired(before.id, before.name)),
      ...returned.map(({ before }) => placeReturned(before.id, before.name, back.get(before.id)!)),
      ...changed.flatMap(
        ({ before, after, ownerId }) =>
          placeChanged(before, after, ownerId === undefined ? before.ownerId : ownerId) ?? [],
      ),
    ]);
    undo.push(...done.flatMap((number) => number ?? []));
  }
  return {
    added: added.length,
    changed: changed.length - returned.length,
    returned: returned.length,
    retired: retired.length,
    same: read.length - added.length - changes.length,
    against: await againstIn(
      tx,
      changed.map((one) => withOwner(one, owners)),
      coming,
      sites,
      actor,
    ),
    problems: problems.sort((a, b) => a.row - b.row),
    changes: undo,
  };
}

/** Whoever the rows of a file give places to. */
async function readOwners(tx: Transaction, rows: readonly Cells[]): Promise<Contact[]> {
  const emails = [...new Set(rows.flatMap((cells) => whoseIn(cells) ?? []))];
  return emails.length > 0 ? findContacts(tx, { emails }) : [];
}

const idsOf = (people: readonly Contact[]) =>
  new Map(people.map(({ email, id }) => [addressKey(email), id]));

/** A change whose place is bound by whom it is given to, as its bookings are judged. */
function withOwner(change: Change, owners: readonly Contact[]): Change {
  const owner = change.isOwnedAnew && owners.find(({ id }) => id === change.ownerId);
  if (!owner) return change;
  const assigned = { ownerId: owner.id, owner: owner.name, freeDays: [] };
  return { ...change, after: { ...change.after, rules: { ...change.after.rules, assigned } } };
}

/** Rows about a place that another one before is about. */
function twice(read: readonly ReadRow[]): RowProblem[] {
  const seen = new Set<string>();
  return read.flatMap(({ row, place }) => {
    const key = keyOf(place);
    if (seen.has(key))
      return [{ row, field: 'name', message: 'must stand once for its site in the file' }];
    seen.add(key);
    return [];
  });
}

const stillBooked = (
  retired: readonly Change[],
  coming: ReadonlyMap<number, readonly Coming[]>,
): RowProblem[] =>
  retired.flatMap(({ row, before }) => {
    const count = coming.get(before.id)?.length ?? 0;
    const message = `must be no while it has ${counted(count, 'booking')} to come; retire it on its card, where each is given another place`;
    return count > 0 ? [{ row, field: 'retired', message }] : [];
  });

const refused = (
  changes: readonly Change[],
  touched: Parameters<typeof whyNot>[1],
  actor: PersonActor,
): RowProblem[] =>
  changes.flatMap((one) => {
    const refusal = whyNot(one, touched, actor);
    if (!refusal) return [];
    const field = fileColumnOf(refusal.facts.fields?.[0]?.field ?? 'name');
    return [{ row: one.row, field, message: `cannot be so: ${refusal.message}` }];
  });

async function againstIn(
  tx: Transaction,
  changed: readonly Change[],
  coming: ReadonlyMap<number, readonly Coming[]>,
  sites: readonly { id: number; name: string }[],
  actor: PersonActor,
): Promise<PlaceAgainst[]> {
  const words = await readWords(tx, changed, [...coming.values()].flat(), actor);
  return changed.flatMap((change) => {
    const [first, ...others] = newlyAgainst(change, coming.get(change.before.id) ?? [], words);
    if (!first) return [];
    const site = sites.find((one) => one.id === change.after.siteId)!.name;
    return [{ name: change.after.name, site, total: others.length + 1, first }];
  });
}

const isSameRules = ({ before, after }: ResourceChange): boolean =>
  same(allRules(before.rules), after.rules);

const isSame = (before: KeptPlace, place: NewPlace): boolean =>
  same(
    place,
    Object.fromEntries(
      Object.keys(place).map((key) => [
        key,
        key === 'rules' ? allRules(before.rules) : before[key as keyof NewPlace],
      ]),
    ),
  );

/** Rows of places that the actor does not look after, as they are or as they are to be. */
async function outOfReach(
  tx: Transaction,
  actor: PersonActor,
  added: readonly ReadRow[],
  changes: readonly Change[],
): Promise<RowProblem[]> {
  const rows = [
    ...added.map(({ row, place }) => ({ row, place: { ...place, id: null } })),
    ...changes.map(({ row, before, after }) => ({ row, place: { ...after, id: before.id } })),
  ];
  const reached = await withinReach(
    tx,
    actor,
    rows.map(({ place }) => place),
  );
  return rows.flatMap(({ row, place: { id } }, k) =>
    reached[k] && (id === null || may(actor, 'look-after', id))
      ? []
      : [{ row, field: 'site', message: OUT_OF_REACH }],
  );
}
