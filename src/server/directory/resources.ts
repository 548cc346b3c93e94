import { createHash } from 'node:crypto';
import { z } from 'zod';
import { line, mailAddress, requiredLine, zone } from '../../contract/common.ts';
import { MOST_OF_TEAM } from '../../contract/limits.ts';
import type { Actor } from '../actions/index.ts';
import { ScimProblem } from './errors.ts';
import { LONGEST_EXTERNAL_ID } from './limits.ts';
import type { DirectoryPerson, DirectoryTeam } from './queries.ts';

export const USER_SCHEMA = 'urn:ietf:params:scim:schemas:core:2.0:User';
export const GROUP_SCHEMA = 'urn:ietf:params:scim:schemas:core:2.0:Group';

/** Something of the directory (RFC 7643 section 3), with its version as an entity tag. */
export interface Resource {
  schemas: string[];
  id: string;
  externalId?: string;
  meta: { resourceType: string; location: string; version: string };
  [attribute: string]: unknown;
}

const tagOf = (value: object): string =>
  `W/"${createHash('sha256').update(JSON.stringify(value)).digest('base64url').slice(0, 22)}"`;

function withMeta(resourceType: 'User' | 'Group', base: string, value: { id: string }): Resource {
  const path = resourceType === 'User' ? 'Users' : 'Groups';
  return {
    ...(value as Resource),
    meta: {
      resourceType,
      location: `${base}/${path}/${value.id}`,
      version: tagOf(value),
    },
  };
}

/** A person as a User (RFC 7643 section 4.1). */
export function userOf(person: DirectoryPerson, base: string): Resource {
  const words = person.name.split(' ');
  return withMeta('User', base, {
    schemas: [USER_SCHEMA],
    id: String(person.id),
    ...(person.externalId !== null && { externalId: person.externalId }),
    userName: person.userName ?? person.email,
    name: {
      formatted: person.name,
      givenName: words[0],
      familyName: words.slice(1).join(' '),
    },
    displayName: person.name,
    ...(person.jobTitle && { title: person.jobTitle }),
    timezone: person.zone,
    active: person.isActive,
    emails: [{ value: person.email, type: 'work', primary: true }],
    groups: person.teams.map(({ id, name }) => ({
      value: String(id),
      $ref: `${base}/Groups/${id}`,
      display: name,
      type: 'direct',
    })),
  } as { id: string });
}

/** A team as a Group (RFC 7643 section 4.2). */
export function groupOf(team: DirectoryTeam, base: string): Resource {
  return withMeta('Group', base, {
    schemas: [GROUP_SCHEMA],
    id: String(team.id),
    ...(team.externalId !== null && { externalId: team.externalId }),
    displayName: team.name,
    members: team.members.map(({ id, name }) => ({
      value: String(id),
      $ref: `${base}/Users/${id}`,
      display: name,
      type: 'User',
    })),
  } as { id: string });
}

const externalId = line(LONGEST_EXTERNAL_ID).nullish();

/** What of a User is read; everything else is left aside, as RFC 7644 section 3.3 lets it be. */
const userBody = z.object({
  externalId,
  userName: requiredLine(254),
  name: z
    .object({
      formatted: line(240).nullish(),
      givenName: line(120).nullish(),
      familyName: line(120).nullish(),
    })
    .nullish(),
  displayName: line(240).nullish(),
  title: line(120).nullish(),
  timezone: z.string().max(60).nullish(),
  active: z.union([z.boolean(), z.stringbool()], { error: 'must be true or false' }).nullish(),
  emails: z
    .array(z.object({ value: z.string().max(254), primary: z.boolean().nullish() }))
    .max(20)
    .nullish(),
});

/** What the directory says of somebody. */
export interface UserValues {
  externalId: string | null;
  /** Null where it is their mail address. */
  userName: string | null;
  email: string;
  name: string;
  jobTitle: string;
  /** Null where it says none, or one that is no zone. */
  zone: string | null;
  isActive: boolean;
}

function refused(error: z.ZodError): ScimProblem {
  const { path, message } = error.issues[0]!;
  return new ScimProblem(400, `${path.map(String).join('.')} ${message}.`, 'invalidValue');
}

/** @throws ScimProblem naming the attribute and what is allowed */
export function readUser(body: unknown): UserValues {
  const read = userBody.safeParse(body);
  if (!read.success) throw refused(read.error);
  const { data } = read;
  const primary = data.emails?.find((one) => one.primary) ?? data.emails?.[0];
  // Most directories say the address as the name; where it is none, the first mail address is.
  const own = mailAddress.safeParse(data.userName);
  const email = own.success ? own : mailAddress.safeParse(primary?.value ?? '');
  if (!email.success)
    throw new ScimProblem(
      400,
      'userName, or the value of emails, must be a mail address.',
      'invalidValue',
    );
  const { name } = data;
  const words = [name?.givenName, name?.familyName].filter(Boolean).join(' ');
  const called = (data.displayName || name?.formatted || words || email.data).slice(0, 120).trim();
  const clock = zone.safeParse(data.timezone ?? '');
  return {
    externalId: data.externalId || null,
    userName: own.success ? null : data.userName,
    email: email.data,
    name: called,
    jobTitle: data.title ?? '',
    zone: clock.success ? clock.data : null,
    isActive: data.active ?? true,
  };
}

const groupBody = z.object({
  externalId,
  displayName: requiredLine(120),
  members: z
    .array(
      z.object({
        value: z.string().regex(/^\d{1,9}$/, 'must be the id of a User'),
        type: z
          .literal('User', { error: 'must be "User": groups have no groups in them' })
          .nullish(),
      }),
    )
    .max(MOST_OF_TEAM, `may be at most ${MOST_OF_TEAM} members`)
    .nullish(),
});

export interface GroupValues {
  externalId: string | null;
  name: string;
  members: number[];
}

/** @throws ScimProblem naming the attribute and what is allowed */
export function readGroup(body: unknown): GroupValues {
  const read = groupBody.safeParse(body);
  if (!read.success) throw refused(read.error);
  const { displayName, members } = read.data;
  return {
    externalId: read.data.externalId || null,
    name: displayName,
    members: [...new Set((members ?? []).map(({ value }) => Number(value)))],
  };
}

/** @throws ScimProblem 412 where a resource is another than was read, by the tag of a condition (RFC 9110) */
export function refuseChanged(resource: Resource, match: string | undefined): void {
  if (match !== undefined && match !== '*' && match !== resource.meta.version)
    throw new ScimProblem(412, 'It was changed meanwhile; read it again.');
}

/** Whoever changes accounts and teams is the directory: the system, and nobody here. */
export const DIRECTORY: Actor = { kind: 'system' };
