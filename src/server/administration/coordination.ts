import { listClauses } from '../../core/listClauses.ts';
import type { Transaction } from '../db/transaction.ts';
import { plainMail, type Letter } from '../letters/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import { postMails } from '../mail/index.ts';
import { contactsById } from '../people/index.ts';
import type { Platform } from '../platform.ts';
import type { PersonPair } from './people.ts';
import { readNames, readPeopleOfTeams } from './peopleQueries.ts';

/**
 * Tells everybody for whom somebody plans from now on, since they coordinate a team of theirs, and whoever does: of
 * what somebody may in one's name nobody learns by chance. One letter to each.
 */
export async function tellCoordinated(
  tx: Transaction,
  { clock, publicUrl }: Platform,
  pairs: readonly PersonPair[],
  by: string,
): Promise<void> {
  const given = pairs.flatMap(({ before, after }) => {
    const teams = after.coordinates.filter((team) => !before.coordinates.includes(team));
    return teams.length > 0 ? [{ ...after, teams }] : [];
  });
  announce(
    tx,
    pairs.map(({ after }) => subjectOf('person', after.id)),
  );
  if (given.length === 0) return;
  const teamIds = [...new Set(given.flatMap(({ teams }) => teams))];
  const [members, names] = [
    await readPeopleOfTeams(tx, teamIds),
    await readNames(tx, { teams: teamIds }),
  ];
  const contacts = await contactsById(tx, [
    ...new Set([...members.map(({ id }) => id), ...given.map(({ id }) => id)]),
  ]);
  const nameOf = (team: number) => names.get(`team ${team}`)!;
  const sayings = new Map<number, string[]>();
  const say = (id: number, words: string) => sayings.set(id, [...(sayings.get(id) ?? []), words]);
  for (const { id, name, teams } of given) {
    say(
      id,
      `You coordinate ${listClauses(teams.map(nameOf))}: you plan, answer, book and record absence for its people. What is private is not shown to you.`,
    );
    const told = new Set([id]);
    for (const { id: memberId, teamId } of members) {
      if (told.has(memberId) || !teams.includes(teamId)) continue;
      told.add(memberId);
      say(
        memberId,
        `${name} coordinates ${nameOf(teamId)}: they may plan, answer, book and record absence in your name, which is shown as theirs, for you. What is private in your calendar is not shown to them.`,
      );
    }
  }
  const mails = [...sayings].flatMap(([id, opening]) => {
    const to = contacts.get(id);
    if (!to) return [];
    const letter: Letter = {
      ...{ subject: 'Who plans for whom', title: 'Who plans for whom' },
      opening: [...opening, `${by} settled it.`],
      ...{ description: '', facts: [], link: { href: publicUrl, label: 'Open Marmot' } },
    };
    return [plainMail(letter, to)];
  });
  postMails(tx, mails, clock.now());
}
