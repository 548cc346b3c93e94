import type { Directory, PeopleQuery } from '../../contract/people.ts';
import { FORGIVEN_FROM } from '../db/limits.ts';
import type { Database } from '../db/transaction.ts';
import {
  countPeople,
  readHours,
  readPeople,
  readDirectoryTeams,
  type Spelling,
} from './queries.ts';

/**
 * A part of the people there are, for the People view; with the first part the teams. Where nobody is
 * spelt like that, those whose words come close.
 */
export async function readDirectory(
  db: Database,
  readerId: number,
  query: PeopleQuery,
): Promise<Directory> {
  const spelt = (spelling: Spelling) =>
    Promise.all([readPeople(db, readerId, query, spelling), countPeople(db, query.q, spelling)]);
  const [typed, teams] = await Promise.all([
    spelt('as typed'),
    query.after ? [] : readDirectoryTeams(db, query.q),
  ]);
  const isForgiven = typed[1] === 0 && teams.length === 0 && query.q.length >= FORGIVEN_FROM;
  const [people, total] = isForgiven ? await spelt('alike') : typed;
  const hours = await readHours(
    db,
    people.map((person) => person.id),
  );
  return {
    people: people.map((person) => ({ ...person, hours: hours.get(person.id)! })),
    total,
    isForgiven: isForgiven && total > 0,
    teams,
  };
}
