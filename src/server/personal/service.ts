import type { Reminder } from '../../contract/eventParts.ts';
import type { MyPartRequest } from '../../contract/events.ts';
import { invalid } from '../../core/refusal.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import { insertPersonal, putInCategory, replaceReminders, type Personal } from './queries.ts';

const notMine = () =>
  invalid([{ field: 'categoryId', message: 'must be one of your own categories' }]);

/**
 * Keeps my category and reminders of an event that I have just made.
 * @throws Refusal when the category is not mine
 */
export async function beginPersonal(
  tx: Transaction,
  { me }: PersonActor,
  eventId: string,
  part: { categoryId: number | null; reminders: readonly Reminder[] | null },
): Promise<Personal> {
  const kept = await insertPersonal(tx, eventId, me.id, part);
  if (part.categoryId !== null && kept.categoryId === null) throw notMine();
  return kept;
}

/**
 * Keeps my category and reminders of an event, as far as they are given.
 * @throws Refusal when the category is not mine
 */
export async function changePersonal(
  tx: Transaction,
  { me }: PersonActor,
  eventId: string,
  { categoryId, reminders }: MyPartRequest,
): Promise<void> {
  if (categoryId !== undefined && !(await putInCategory(tx, eventId, me.id, categoryId))) {
    throw notMine();
  }
  if (reminders) await replaceReminders(tx, eventId, me.id, reminders);
}
