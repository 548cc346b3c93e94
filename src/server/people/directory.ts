import type { Directory, PeopleQuery } from '../../contract/people.ts';
import type { Database } from '../db/transaction.ts';
import { countPeople, readHours, readPeople, readTeams } from './queries.ts';

/** A part of the people there are, for the People view; with the first part the teams. */
export async function directory(
  db: Database,
  readerId: number,
  query: PeopleQuery,
): Promise<Directory> {
  const [people, total, teams] = await Promise.all([
    readPeople(db, readerId, query),
    countPeople(db, query.q),
    query.after ? [] : readTeams(db, query.q),
  ]);
  const hours = await readHours(
    db,
    people.map((person) => person.id),
  );
  return {
    people: people.map((person) => ({ ...person, hours: hours.get(person.id)! })),
    total,
    teams,
  };
}
