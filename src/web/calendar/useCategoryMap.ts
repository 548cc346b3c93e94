import { createContext, createElement, useContext, useMemo, type ReactNode } from 'react';
import type { Category } from '../../contract/preferences.ts';
import { useCategories } from './useCalendar.ts';

const CategoriesContext = createContext<ReadonlyMap<number, Category>>(new Map());

/** Reads my categories once for everything inside, which may be hundreds of items. */
export function CategoriesProvider({ children }: { children: ReactNode }) {
  const categories = useCategories();
  const byId = useMemo(() => new Map(categories.map((one) => [one.id, one])), [categories]);
  return createElement(CategoriesContext, { value: byId }, children);
}

/** My categories by id. */
export const useCategoryMap = (): ReadonlyMap<number, Category> => useContext(CategoriesContext);
