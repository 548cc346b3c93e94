const MOST_NAMED = 4;

/** What stays or goes, one clause after another: `seats of Gannet, changed since; 3 more`. */
export const listClauses = (clauses: readonly string[]): string =>
  clauses.length <= MOST_NAMED
    ? clauses.join('; ')
    : `${clauses.slice(0, MOST_NAMED - 1).join('; ')}; ${clauses.length - MOST_NAMED + 1} more`;
