import { useMemo } from 'react';
import type { Category } from '../../contract/preferences.ts';
import { useCategories } from './useCalendar.ts';

/** My categories by id. */
export function useCategoryMap(): ReadonlyMap<number, Category> {
  const categories = useCategories();
  return useMemo(() => new Map(categories.map((one) => [one.id, one])), [categories]);
}
