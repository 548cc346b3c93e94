import type { PreferenceChange } from '../../contract/preferences.ts';
import type { Me, Preferences } from '../../contract/session.ts';
import { invalid } from '../../core/refusal.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { keepOwnDays } from '../events/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import { readHours } from '../people/index.ts';
import {
  lockChoices,
  readDeliveryChoices,
  replaceHours,
  writeChoices,
  writePerson,
} from './queries.ts';

export async function preferencesOf(db: Database, personId: number): Promise<Preferences> {
  const choices = await readDeliveryChoices(db, personId);
  const hours = await readHours(db, [personId]);
  return { ...choices, hours: hours.get(personId)! };
}

/**
 * Keeps what somebody chose anew; the rest stays as it is. All their windows hear of it.
 * @throws Refusal when the hours shown are less than one
 */
export async function changePreferences(
  tx: Transaction,
  me: Me,
  change: PreferenceChange,
): Promise<void> {
  await lockChoices(tx, me.id);
  const { zone, furtherZones, clock, hours, hearing, ...chosen } = change;
  const given = Object.fromEntries(
    Object.entries(chosen).filter(([, value]) => value !== undefined),
  );
  const before = await readDeliveryChoices(tx, me.id);
  const choices = { ...before, ...given, hearing: { ...before.hearing, ...hearing } };
  if (choices.shownFrom + 60 > choices.shownTo) {
    throw invalid([{ field: 'shownTo', message: 'must be at least an hour after shownFrom' }]);
  }
  await writeChoices(tx, me.id, choices);
  await writePerson(tx, me.id, { zone, furtherZones, clock });
  if (zone && zone !== me.zone) keepOwnDays(tx, [me.id]);
  if (hours) await replaceHours(tx, me.id, hours);
  announce(tx, [subjectOf('person', me.id), subjectOf('calendar', me.id)]);
}
