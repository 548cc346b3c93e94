import type { Directory } from '../../contract/people.ts';
import type { Database } from '../db/transaction.ts';
import { readHours, readPeople, readTeams } from './queries.ts';

/** Everyone and every team, for the People view. */
export async function directory(db: Database): Promise<Directory> {
  const [people, teams] = await Promise.all([readPeople(db), readTeams(db)]);
  const hours = await readHours(
    db,
    people.map((person) => person.id),
  );
  return { people: people.map((person) => ({ ...person, hours: hours.get(person.id)! })), teams };
}
