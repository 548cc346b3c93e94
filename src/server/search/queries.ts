import type { Found, Vocabulary } from '../../contract/search.ts';
import { holdsAlike } from '../db/like.ts';
import { FORGIVEN_FROM } from '../db/limits.ts';
import { isPresent } from '../people/index.ts';
import type { Database } from '../db/transaction.ts';

/** Text made safe as a part of a LIKE pattern. */
const literal = (text: string) => text.replace(/[\\%_]/g, (sign) => `\\${sign}`);

/** How a name is looked for, and what stands first. `$1` is the text, or with `%` what begins with it. */
const AS_TYPED = {
  holds: (name: string) => `(${name} ilike $1 or ${name} ilike $2)`,
  order: (name: string) => `${name} ilike $1 desc, ${name}`,
};
const ALIKE: typeof AS_TYPED = {
  holds: (name) => `${holdsAlike('$1', name)} and $2::text is null`,
  order: (name) => `word_similarity(unaccent($1), unaccent(${name})) desc, ${name}`,
};

/**
 * People, teams and resources whose name has a word that begins with the text, or whose address
 * begins with it; names that begin with it come first. Where there are none, those whose name comes
 * close.
 */
export async function findSubjects(db: Database, text: string, limit: number): Promise<Found[]> {
  const begin = literal(text);
  const found = await subjectsSpelt(db, AS_TYPED, [`${begin}%`, `% ${begin}%`, limit]);
  if (found.length > 0 || text.length < FORGIVEN_FROM) return found;
  return subjectsSpelt(db, ALIKE, [text, null, limit]);
}

async function subjectsSpelt(
  db: Database,
  { holds, order }: typeof AS_TYPED,
  parameters: readonly unknown[],
): Promise<Found[]> {
  const isAddress = parameters[1] === null ? '' : 'or person.email ilike $1';
  const [people, teams, resources] = await Promise.all([
    db.query<Extract<Found, { kind: 'person' }>>(
      `select 'person' as kind, subject.id, subject.name, person.email,
              coalesce(site.city, organization.name) as detail
       from person
       join subject on subject.id = person.subject_id
       join organization on organization.id = person.organization_id
       left join site on site.id = person.site_id
       where (${holds('subject.name')} ${isAddress}) and ${isPresent('person')}
       order by ${order('subject.name')} limit $3`,
      [...parameters],
    ),
    db.query<Extract<Found, { kind: 'team' }>>(
      `select 'team' as kind, team.id, team.name,
              array_agg(team_member.person_id order by team_member.person_id) as "memberIds",
              count(*) || ' people' as detail
       from team join team_member on team_member.team_id = team.id
       join person on person.subject_id = team_member.person_id and ${isPresent('person')}
       where ${holds('team.name')}
       group by team.id order by ${order('team.name')} limit $3`,
      [...parameters],
    ),
    db.query<Extract<Found, { kind: 'resource' }>>(
      `select 'resource' as kind, subject.id, subject.name, resource.kind as "resourceKind",
              site.city || case when resource.capacity > 0 then ', ' || resource.capacity || ' seats' else '' end
                as detail
       from resource
       join subject on subject.id = resource.subject_id
       join site on site.id = resource.site_id
       where resource.retired_at is null and ${holds('subject.name')}
       order by ${order('subject.name')} limit $3`,
      [...parameters],
    ),
  ]);
  return [...people.rows, ...teams.rows, ...resources.rows];
}

/** Every name that a sentence can mean. */
export async function readVocabulary(db: Database): Promise<Vocabulary> {
  const [people, teams, resources, sites, features] = await Promise.all([
    db.query<Vocabulary['people'][number]>(
      `select subject.id, subject.name, coalesce(site.city, organization.name) as detail
       from person
       join subject on subject.id = person.subject_id
       join organization on organization.id = person.organization_id
       left join site on site.id = person.site_id
       where ${isPresent('person')}
       order by subject.name`,
    ),
    db.query<Vocabulary['teams'][number]>(
      `select team.id, team.name,
              array_agg(team_member.person_id order by team_member.person_id) as "memberIds"
       from team join team_member on team_member.team_id = team.id
       join person on person.subject_id = team_member.person_id and ${isPresent('person')}
       group by team.id order by team.name`,
    ),
    db.query<Vocabulary['resources'][number]>(
      `select subject.id, subject.name, resource.kind, site.city as detail
       from resource
       join subject on subject.id = resource.subject_id
       join site on site.id = resource.site_id
       where resource.retired_at is null
       order by subject.name`,
    ),
    db.query<Vocabulary['sites'][number]>(
      `select site.id, site.name, site.city, site.zone
       from site where removed_at is null order by site.id`,
    ),
    db.query<{ feature: string }>(
      `select distinct unnest(features) as feature from resource where retired_at is null
       order by feature`,
    ),
  ]);
  return {
    people: people.rows,
    teams: teams.rows,
    resources: resources.rows,
    sites: sites.rows,
    features: features.rows.map((one) => one.feature),
  };
}
