import type { Transaction } from '../../db/transaction.ts';

/*
 * Whole days from elsewhere are no span of time: each person who is asked has them on their own
 * calendar, from midnight to midnight where they are (`days_on` in the database).
 */

/**
 * When an occurrence is for one person, in SQL: the columns `start` and `"end"`.
 * @param occurrence an effective occurrence @param personId SQL of whose calendar it stands in
 */
export function spanFor(occurrence: string, personId: string): string {
  const edge = (name: string, bound: string) =>
    `case when ${occurrence}.organizer_id is null and ${occurrence}.all_day
          then coalesce(${bound}(days_on(${occurrence}.starts_at, ${occurrence}.ends_at, ${occurrence}.zone,
                 (select zone from person where subject_id = ${personId}))), ${occurrence}.${name})
          else ${occurrence}.${name} end`;
  return `${edge('starts_at', 'lower')} as start, ${edge('ends_at', 'upper')} as "end"`;
}

/** Lets whole days from elsewhere follow people whose calendars are in another zone from now on. */
export function keepOwnDays(tx: Transaction, personIds: readonly number[]): void {
  if (personIds.length === 0) return;
  tx.send(
    `update claim set during = presence.during
     from event join effective_presence presence on presence.event_id = event.id
     where event.organizer_id is null
       and event.id in (select event_id from attendee where person_id = any($1))
       and presence.person_id = any($1) and claim.occurrence_id = presence.occurrence_id
       and claim.subject_id = presence.person_id and not claim.exclusive and claim.during <> presence.during`,
    [personIds],
  );
}
