import type { ImportPeopleRequest, PeopleImported } from '../../contract/administration.ts';
import { MOST_SHOWN_OF_FILE, MOST_TEAMS_OF_PERSON } from '../../contract/limits.ts';
import { addressKey } from '../../core/mailAddress.ts';
import { newOfRow, PEOPLE_FILE_COLUMNS, readPersonRow } from '../../core/people/peopleFile.ts';
import { settled } from '../../core/people/reach.ts';
import { personEditsInWords, valuesOfPerson } from '../../core/people/personFacts.ts';
import { editsOf } from '../../core/edits.ts';
import { plainLetters } from '../../core/plainLetters.ts';
import type { PersonActor } from '../actions/index.ts';
import { actorName, breather } from '../actions/index.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { commitThings } from '../facts/index.ts';
import { cellOf, csvLine } from '../http/index.ts';
import type { Platform } from '../platform.ts';
import { zoneOfCity } from './cities.ts';
import { addPeople, changeOf, writePairs, type PersonPair } from './people.ts';
import { lockHome, lockPeople, readAllPeople, readByAddress } from './peopleQueries.ts';
import { readSites } from './siteQueries.ts';
import { readTeams } from './teamQueries.ts';

/**
 * What a file of people would do, or does: those it names who are not here are added, those who are are changed
 * in what it says. Rows that cannot be read are left out and named. Nobody leaves by being missing in it.
 * @throws Refusal where nobody would be left who administers the organization: nothing is done then
 */
export async function importPeople(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  { rows, check, welcome }: ImportPeopleRequest,
): Promise<PeopleImported> {
  const breathe = breather();
  const home = await lockHome(tx);
  const [sites, teams] = [await readSites(tx), await readTeams(tx)];
  const names = {
    siteOf: new Map(
      sites.flatMap(({ id, name, city, zone }) =>
        [city, name].map((called) => [plainLetters(called), { id, zone }] as const),
      ),
    ),
    teamOf: new Map(teams.map(({ id, name }) => [plainLetters(name), id])),
    zoneOf: zoneOfCity,
  };
  const problems: PeopleImported['problems'] = [];
  const seen = new Map<string, number>();
  const read: {
    row: number;
    person: Extract<ReturnType<typeof readPersonRow>, { person: unknown }>['person'];
  }[] = [];
  for (const [k, cells] of rows.entries()) {
    await breathe();
    const row = k + 1;
    const found = readPersonRow(
      Object.fromEntries(Object.entries(cells).map(([column, cell]) => [column, cellOf(cell)])),
      names,
    );
    if ('problems' in found) {
      problems.push(...found.problems.map((one) => ({ row, ...one, mend: one.mend ?? null })));
      continue;
    }
    const key = addressKey(found.person.email);
    if (seen.has(key)) {
      const message = `must stand once; it stands in row ${seen.get(key)}, too`;
      problems.push({ row, field: 'address', message, mend: null });
      continue;
    }
    seen.set(key, row);
    read.push({ row, person: found.person });
  }
  const here = new Map(
    (
      await readByAddress(
        tx,
        read.map(({ person }) => person.email),
      )
    ).map((one) => [addressKey(one.email), one]),
  );
  const held = new Map(
    (
      await lockPeople(
        tx,
        [...here.values()].map(({ id }) => id),
      )
    ).map((one) => [one.id, one]),
  );
  const usual = { siteId: sites[0]?.id ?? null, zone: sites[0]?.zone ?? 'UTC' };
  const added: ReturnType<typeof newOfRow>[] = [];
  const pairs: PersonPair[] = [];
  let same = 0;
  for (const { row, person } of read) {
    await breathe();
    const owner = here.get(addressKey(person.email));
    if (!owner || (owner.isHome && owner.account === 'removed')) {
      added.push(newOfRow(person, usual));
      continue;
    }
    const before = held.get(owner.id);
    if (!before) {
      const message = 'must not be the address of somebody of a partner';
      problems.push({ row, field: 'address', message, mend: null });
      continue;
    }
    if (before.account === 'ended') {
      const message = `is ${before.name}’s, whose access ended; let them in again first`;
      problems.push({ row, field: 'address', message, mend: null });
      continue;
    }
    if ((person.teams?.length ?? 0) > MOST_TEAMS_OF_PERSON) {
      const message = `may be at most ${MOST_TEAMS_OF_PERSON}`;
      problems.push({ row, field: 'teams', message, mend: null });
      continue;
    }
    const { email: _email, ...said } = person;
    const after = settled({ ...before, ...said });
    if (editsOf(valuesOfPerson(before), valuesOfPerson(after)).length === 0) same++;
    else pairs.push({ before, after });
  }
  const nameOf = (what: string, id: number) =>
    (what === 'site' ? sites : teams).find((one) => one.id === id)?.name ?? 'one that is gone';
  const edits = pairs.map(({ before, after }) =>
    editsOf(valuesOfPerson(before), valuesOfPerson(after)),
  );
  const fields: Record<string, number> = {};
  for (const { path } of edits.flat()) fields[path] = (fields[path] ?? 0) + 1;
  const changes: number[] = [];
  if (!check) {
    // In the order in which a refusal costs least: changes first, which may leave nobody to administer.
    await writePairs(tx, platform, pairs, { organization: home.name, by: actorName(actor) });
    const done = await commitThings(
      tx,
      platform,
      actor,
      pairs.map((pair) => changeOf(pair)!),
    );
    changes.push(...done.flatMap((one) => one ?? []));
    if (added.length > 0)
      changes.push(...(await addPeople(tx, platform, actor, { people: added, welcome })).changes);
  }
  return {
    added: added.slice(0, MOST_SHOWN_OF_FILE).map(({ name, email, siteId }) => ({
      ...{ name, email },
      site: siteId === null ? null : nameOf('site', siteId),
    })),
    addedInAll: added.length,
    changed: pairs.slice(0, MOST_SHOWN_OF_FILE).map(({ before }, k) => ({
      ...{ id: before.id, name: before.name },
      what: personEditsInWords(edits[k]!, { nameOf }),
    })),
    changedInAll: pairs.length,
    fields,
    same,
    problems: problems.sort((a, b) => a.row - b.row),
    changes,
  };
}

/** All who are here as a file (CSV, RFC 4180) with the columns it is read by: read again, it changes nothing. */
export async function peopleFile(db: Database): Promise<string> {
  const lines = (await readAllPeople(db)).map((one) =>
    csvLine([
      one.name,
      one.email,
      one.jobTitle,
      one.teams.join('; '),
      one.site ?? '',
      one.zone,
      one.role,
    ]),
  );
  return csvLine([...PEOPLE_FILE_COLUMNS]) + lines.join('');
}
