import { bookingsOf, type Statement } from './matchingQueries.ts';

/** Some columns, each by its name. */
export const columns = (by: Record<string, string>): string =>
  Object.entries(by)
    .map(([name, sql]) => `${sql} as ${name}`)
    .join(', ');

/**
 * Bookings counted by what they have in common, as `met`.
 * @param by what they have in common, each by its name
 * @param among where they stand, as `r`; by itself all that are asked for
 */
export const countedBy = (
  statement: Statement,
  by: Record<string, string>,
  among = bookingsOf(statement, statement.about?.beside),
): string =>
  `met as materialized (
     select ${columns({ ...by, ...statement.about?.with })}, count(*) as bookings,
            sum(r.minutes) as lasting
     from ${among}
     group by ${Object.keys(by)
       .map((_, k) => k + 1)
       .join(', ')})`;
