/**
 * What somebody may see of a booking, as SQL: for lists that are sorted, put into groups and searched in
 * the database, where what is hidden must not decide anything. `Levels` says the same of one booking; a
 * test holds them together.
 */
import { sharingLevelSql } from './queries.ts';

/** Expressions that say what is known of a booking. */
interface BookingSql {
  /** The asker's level on its organizer's calendar; null where nobody of here organizes it. */
  level: string;
  /** Its visibility, `draft` for what is not sent. */
  visibility: string;
  /** Whether the asker takes part in it, or somebody for whom they act. */
  takesPart: string;
}

/** Every person with the level at which a viewer, whose id the parameter holds, sees their calendar. */
export const levelsSql = sharingLevelSql;

/** Whether its title is seen. */
export const seesTitleSql = ({ level, visibility, takesPart }: BookingSql): string =>
  `case when ${visibility} = 'draft' then coalesce(${level} = 'acts', false)
        when ${level} in ('edit', 'acts') or ${takesPart} then true
        when ${visibility} in ('private', 'hidden') then false
        when ${visibility} = 'public' then coalesce(${level} <> 'nothing', false)
        else coalesce(${level} in ('titles', 'everything', 'coordinates'), false) end`;

/**
 * Whether it is seen who has the place.
 * @param looksAfter whether the asker looks after it, as SQL
 */
export const seesHolderSql = (
  { level, visibility, takesPart }: BookingSql,
  looksAfter: string,
): string =>
  looksAfter === 'true'
    ? 'true'
    : `(${looksAfter} or ${takesPart} or coalesce(${level} in ('edit', 'acts'), false)
        or ${visibility} <> 'hidden' and coalesce(${level} <> 'nothing', false))`;
