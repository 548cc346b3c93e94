import { createContext, createElement, useContext, useMemo, type ReactNode } from 'react';
import type { Category } from '../../contract/preferences.ts';

const CategoriesContext = createContext<ReadonlyMap<number, Category>>(new Map());

/** Gives the categories once to everything inside, which may be hundreds of items. */
export function CategoriesProvider({
  categories,
  children,
}: {
  categories: readonly Category[];
  children: ReactNode;
}) {
  const byId = useMemo(() => new Map(categories.map((one) => [one.id, one])), [categories]);
  return createElement(CategoriesContext, { value: byId }, children);
}

/** My categories by id. */
export const useCategoryMap = (): ReadonlyMap<number, Category> => useContext(CategoriesContext);
