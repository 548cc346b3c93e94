import { useQuery } from '@tanstack/react-query';
import type { Category } from '../../contract/preferences.ts';
import { readApi } from '../app/index.ts';

const NONE: readonly Category[] = [];

/** My categories in their order; none while they are read. */
export function useCategories(): readonly Category[] {
  const query = useQuery({
    queryKey: ['calendar', 'categories'],
    queryFn: () => readApi<{ categories: Category[] }>('/categories'),
    staleTime: 60_000,
  });
  return query.data?.categories ?? NONE;
}
