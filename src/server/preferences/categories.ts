import type { z } from 'zod';
import type { Category, categoryRequest } from '../../contract/preferences.ts';
import { invalid, Refusal } from '../../core/refusal.ts';
import type { Transaction } from '../db/transaction.ts';
import { announce, subjectOf } from '../live/index.ts';
import { deleteCategory, insertCategory, readCategories, updateCategory } from './queries.ts';
import { MOST_CATEGORIES } from './limits.ts';

type CategoryInput = z.output<typeof categoryRequest>;
interface Categories {
  categories: Category[];
}

const nameTaken = () =>
  invalid([{ field: 'name', message: 'must not be the name of another category of yours' }]);
const noSuchCategory = () => new Refusal('no-such-category', 'You have no such category.');

async function changed(tx: Transaction, personId: number): Promise<Categories> {
  announce(tx, [subjectOf('person', personId), subjectOf('calendar', personId)]);
  return { categories: await readCategories(tx, personId) };
}

/** @throws Refusal naming a name that is taken, or that it is one too many */
export async function addCategory(
  tx: Transaction,
  personId: number,
  request: CategoryInput,
): Promise<Categories> {
  if ((await readCategories(tx, personId)).length >= MOST_CATEGORIES) {
    throw invalid([{ field: 'name', message: `may be one of at most ${MOST_CATEGORIES}` }]);
  }
  if (!(await insertCategory(tx, personId, request))) throw nameTaken();
  return changed(tx, personId);
}

/** @throws Refusal where there is none of theirs, naming a name that is taken */
export async function changeCategory(
  tx: Transaction,
  personId: number,
  id: number,
  request: CategoryInput,
): Promise<Categories> {
  const outcome = await updateCategory(tx, personId, id, request);
  if (outcome === 'taken') throw nameTaken();
  if (outcome === 'missing') throw noSuchCategory();
  return changed(tx, personId);
}

/** @throws Refusal where there is none of theirs */
export async function removeCategory(
  tx: Transaction,
  personId: number,
  id: number,
): Promise<Categories> {
  if (!(await deleteCategory(tx, personId, id))) throw noSuchCategory();
  return changed(tx, personId);
}
