import type { Found, Vocabulary } from '../../contract/search.ts';
import type { Database } from '../db/transaction.ts';

/** Text made safe as a part of a LIKE pattern. */
const literal = (text: string) => text.replace(/[\\%_]/g, (sign) => `\\${sign}`);

/**
 * People, teams and resources whose name has a word that begins with the text, or whose address
 * begins with it; names that begin with it come first.
 */
export async function findSubjects(db: Database, text: string, limit: number): Promise<Found[]> {
  const parameters = [`${literal(text)}%`, `% ${literal(text)}%`, limit];
  const people = await db.query<Extract<Found, { kind: 'person' }>>(
    `select 'person' as kind, subject.id, subject.name, person.email,
            coalesce(site.city, organization.name) as detail
     from person
     join subject on subject.id = person.subject_id
     join organization on organization.id = person.organization_id
     left join site on site.id = person.site_id
     where subject.name ilike $1 or subject.name ilike $2 or person.email ilike $1
     order by subject.name ilike $1 desc, subject.name limit $3`,
    parameters,
  );
  const teams = await db.query<Extract<Found, { kind: 'team' }>>(
    `select 'team' as kind, team.id, team.name,
            array_agg(team_member.person_id order by team_member.person_id) as "memberIds",
            count(*) || ' people' as detail
     from team join team_member on team_member.team_id = team.id
     where team.name ilike $1 or team.name ilike $2
     group by team.id order by team.name limit $3`,
    parameters,
  );
  const resources = await db.query<Extract<Found, { kind: 'resource' }>>(
    `select 'resource' as kind, subject.id, subject.name, resource.kind as "resourceKind",
            site.city || case when resource.capacity > 0 then ', ' || resource.capacity || ' seats' else '' end
              as detail
     from resource
     join subject on subject.id = resource.subject_id
     join site on site.id = resource.site_id
     where subject.name ilike $1 or subject.name ilike $2
     order by subject.name ilike $1 desc, subject.name limit $3`,
    parameters,
  );
  return [...people.rows, ...teams.rows, ...resources.rows];
}

/** Every name that a sentence can mean. */
export async function readVocabulary(db: Database): Promise<Vocabulary> {
  const [people, teams, resources, sites] = await Promise.all([
    db.query<Vocabulary['people'][number]>(
      `select subject.id, subject.name, coalesce(site.city, organization.name) as detail
       from person
       join subject on subject.id = person.subject_id
       join organization on organization.id = person.organization_id
       left join site on site.id = person.site_id
       order by subject.name`,
    ),
    db.query<Vocabulary['teams'][number]>(
      `select team.id, team.name,
              array_agg(team_member.person_id order by team_member.person_id) as "memberIds"
       from team join team_member on team_member.team_id = team.id
       group by team.id order by team.name`,
    ),
    db.query<Vocabulary['resources'][number]>(
      `select subject.id, subject.name, resource.kind, site.city as detail
       from resource
       join subject on subject.id = resource.subject_id
       join site on site.id = resource.site_id
       order by subject.name`,
    ),
    db.query<Vocabulary['sites'][number]>(
      `select site.id, site.name, site.city, site.zone
       from site order by site.id`,
    ),
  ]);
  return { people: people.rows, teams: teams.rows, resources: resources.rows, sites: sites.rows };
}
