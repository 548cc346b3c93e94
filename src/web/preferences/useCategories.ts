import { useQuery } from '@tanstack/react-query';
import type { Category } from '../../contract/preferences.ts';
import { answerTo } from '../client/index.ts';

const NONE: readonly Category[] = [];

/** My categories in their order; none while they are read. */
export function useCategories(): readonly Category[] {
  const query = useQuery({
    ...answerTo('GET /api/categories'),
    staleTime: 60_000,
  });
  return query.data?.categories ?? NONE;
}
