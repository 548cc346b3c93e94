import { z } from 'zod';
import { PEOPLE_FILE_COLUMNS, type PeopleFileRow } from '../core/people/peopleFile.ts';
import { START_STEPS } from '../core/people/firstHour.ts';
import { ACCOUNT_STATES } from '../core/people/personFacts.ts';
import { LONGEST_PASTED, MOST_PASTED } from '../core/people/pastedPeople.ts';
import { changeNumber, logEntry } from './changes.ts';
import {
  byId,
  calendarDate,
  idInPath,
  line,
  mailAddress,
  plainText,
  requiredLine,
  subjectId,
  versionRead,
  zone,
} from './common.ts';
import {
  MOST_CHARGES,
  MOST_FLOORS,
  MOST_HOLIDAYS,
  MOST_OF_TEAM,
  MOST_PEOPLE_CHANGED,
  MOST_TEAMS_OF_PERSON,
  MOST_LOGGED,
} from './limits.ts';
import { page } from './paging.ts';
import { workingHours } from './preferences.ts';
import { resourceKind } from './resourceKind.ts';
import { defineRoutes, file, nothing } from './route.ts';
import { holiday, week } from './values.ts';

const ROLES = ['staff', 'steward', 'administrator'] as const;
export const role = z.enum(ROLES, { error: 'must be "staff", "steward" or "administrator"' });
export type Role = z.output<typeof role>;

/** Which people of the organization are wanted. */
export const STANDINGS = ['present', 'waiting', 'left'] as const;
export type Standing = (typeof STANDINGS)[number];
export const PEOPLE_COLUMNS = ['name', 'email', 'site', 'zone', 'role', 'seen'] as const;
export type PeopleColumn = (typeof PEOPLE_COLUMNS)[number];

export const staffQuery = z.strictObject({
  q: line(100).default(''),
  standing: z
    .enum(STANDINGS, { error: 'must be "present", "waiting" or "left"' })
    .default('present'),
  site: z.coerce.number().pipe(subjectId).optional(),
  team: z.coerce.number().pipe(subjectId).optional(),
  role: role.optional(),
  sort: z
    .enum(PEOPLE_COLUMNS, { error: `must be one of ${PEOPLE_COLUMNS.join(', ')}` })
    .default('name'),
  order: z.enum(['up', 'down'], { error: 'must be "up" or "down"' }).default('up'),
  ...page,
});
export type StaffQuery = z.output<typeof staffQuery>;

const named = z.strictObject({ id: z.int(), name: z.string() });

/** Somebody of the organization, as administrators see them. */
export const staffMember = z.strictObject({
  id: z.int(),
  version: z.int(),
  name: z.string(),
  email: z.string(),
  jobTitle: z.string(),
  site: named.nullable(),
  zone: z.string(),
  role,
  teams: z.array(named),
  /** What a steward looks after; every place where it is empty. */
  reach: z.array(
    z.strictObject({
      siteId: z.int().nullable(),
      floor: z.string().nullable(),
      kind: z.string().nullable(),
      placeId: z.int().nullable(),
      site: z.string().nullable(),
      place: z.string().nullable(),
    }),
  ),
  /** Who stands in for them in that. */
  deputy: named.nullable(),
  /** The teams for whose people they plan and answer. */
  coordinates: z.array(named),
  account: z.enum(ACCOUNT_STATES),
  /** When they used Marmot last, to a few minutes; null for never. */
  seenAt: z.int().nullable(),
  /** When their letter of welcome was written; null where none was. */
  welcomedAt: z.int().nullable(),
  /** Whether that letter waits, left, or could not be delivered; null where none was written. */
  letter: z.enum(['waiting', 'sent', 'failed']).nullable(),
});
export type StaffMember = z.output<typeof staffMember>;

export const staffList = z.strictObject({
  people: z.array(staffMember),
  total: z.int(),
  /** With the first part: how many there are of each standing. */
  counts: z.record(z.enum(STANDINGS), z.int()).nullable(),
});
export type StaffList = z.output<typeof staffList>;

/** What a steward looks after: a place, or what is at a site, on a floor of it, of a kind. */
const charge = z
  .strictObject({
    siteId: subjectId.nullable().default(null),
    floor: requiredLine(20).nullable().default(null),
    kind: resourceKind.nullable().default(null),
    placeId: subjectId.nullable().default(null),
  })
  .refine((one) => Object.values(one).some((value) => value !== null), {
    message: 'must name a place, a site, a floor or a kind',
  })
  .refine(({ siteId, floor }) => floor === null || siteId !== null, {
    message: 'must name the site of the floor',
  })
  .refine(
    ({ siteId, floor, kind, placeId }) =>
      placeId === null || (siteId === null && floor === null && kind === null),
    { message: 'must name a place alone' },
  );
const reach = z
  .array(charge, { error: 'must be a list of what they look after' })
  .max(MOST_CHARGES, `may name at most ${MOST_CHARGES}`);
const teamsNamed = z
  .array(subjectId)
  .max(MOST_TEAMS_OF_PERSON, `may name at most ${MOST_TEAMS_OF_PERSON} teams`)
  .refine((all) => new Set(all).size === all.length, { message: 'must name each team once' });

/** Somebody to be added. */
export const newPerson = z.strictObject({
  name: requiredLine(120),
  email: mailAddress,
  jobTitle: line(120).default(''),
  siteId: subjectId.nullable().default(null),
  zone,
  role: role.default('staff'),
  teams: teamsNamed.default([]),
});
export type NewPerson = z.output<typeof newPerson>;

export const addPeopleRequest = z.strictObject({
  people: z
    .array(newPerson, { error: 'must be a list of people' })
    .min(1, 'must name somebody')
    .max(MOST_PEOPLE_CHANGED, `may name at most ${MOST_PEOPLE_CHANGED} people`),
  /** Whether each gets a letter of welcome. */
  welcome: z.boolean({ error: 'must be true or false' }).default(true),
});
export type AddPeopleRequest = z.output<typeof addPeopleRequest>;

export const peopleChanged = z.strictObject({
  /** The people, in the order in which they were given. */
  ids: z.array(z.int()),
  /** By which it is taken back, one for each that was changed. */
  changes: z.array(changeNumber),
});
export type PeopleChanged = z.output<typeof peopleChanged>;

const chosen = z
  .array(z.strictObject({ id: subjectId, version: versionRead }), {
    error: 'must be a list of people',
  })
  .min(1, 'must name somebody')
  .max(MOST_PEOPLE_CHANGED, `may name at most ${MOST_PEOPLE_CHANGED} people`)
  .refine((all) => new Set(all.map(({ id }) => id)).size === all.length, {
    message: 'must name each person once',
  });

export const changePeopleRequest = z.strictObject({
  people: chosen,
  change: z
    .strictObject({
      name: requiredLine(120).optional(),
      email: mailAddress.optional(),
      jobTitle: line(120).optional(),
      siteId: subjectId.nullable().optional(),
      zone: zone.optional(),
      role: role.optional(),
      reach: reach.optional(),
      deputyId: subjectId.nullable().optional(),
      coordinates: teamsNamed.optional(),
      /** Teams they are put into, and taken out of. */
      into: z.array(subjectId).max(MOST_TEAMS_OF_PERSON).optional(),
      outOf: z.array(subjectId).max(MOST_TEAMS_OF_PERSON).optional(),
    })
    .refine((all) => Object.values(all).some((value) => value !== undefined), {
      message: 'must say what changes',
    }),
});
export type ChangePeopleRequest = z.output<typeof changePeopleRequest>;

export const chosenPeople = z.strictObject({ people: chosen });
export type ChosenPeople = z.output<typeof chosenPeople>;

/** What is pasted, to be understood by the server. */
export const readPeopleRequest = z.strictObject({
  text: plainText(LONGEST_PASTED),
  /** Whose zone they have unless something says otherwise. */
  siteId: subjectId.optional(),
});
export type ReadPeopleRequest = z.output<typeof readPeopleRequest>;

const readPerson = z.strictObject({
  name: z.string(),
  isNameGuessed: z.boolean(),
  email: z.string(),
  /** The site they are at; null where what is said of them is elsewhere. */
  siteId: z.int().nullable(),
  zone: z.string(),
  /** Whether zone and site are taken from what stands in brackets beside them. */
  isPlaceGuessed: z.boolean(),
});
export const peopleRead = z.strictObject({
  lines: z.int(),
  people: z
    .array(
      readPerson.extend({
        line: z.int(),
        /** Whether somebody has the address here already, and as what. */
        here: z.enum(['present', 'left', 'elsewhere']).nullable(),
      }),
    )
    .max(MOST_PASTED),
  doubts: z.array(
    z.strictObject({
      line: z.int(),
      text: z.string(),
      from: z.int(),
      to: z.int(),
      why: z.string(),
      mend: readPerson.nullable(),
    }),
  ),
  /** Lines that name nobody. */
  nobody: z.array(z.int()),
});
export type PeopleRead = z.output<typeof peopleRead>;

/** A day off, as it is given. */
export const dayOff = z.strictObject({
  date: calendarDate,
  name: requiredLine(120),
  /** What of the day is off; all of it where it is left out. */
  part: z
    .strictObject({ start: z.int().min(0).max(1439), end: z.int().min(1).max(1440) })
    .refine(({ start, end }) => start < end && end - start < 1440, {
      message: 'must be a part of the day, its end after its start',
    })
    .optional(),
});
export type DayOffRequest = z.output<typeof dayOff>;

const holidays = z
  .array(dayOff, { error: 'must be a list of holidays' })
  .max(MOST_HOLIDAYS, `may be at most ${MOST_HOLIDAYS} holidays`)
  .refine((all) => new Set(all.map(({ date }) => date)).size === all.length, {
    message: 'must name each day once',
  });

/** From the lowest to the highest; with its number one that is there, which is renamed with what it is named by. */
const floors = z
  .array(z.strictObject({ id: subjectId.optional(), name: requiredLine(20) }), {
    error: 'must be a list of floors',
  })
  .max(MOST_FLOORS, `may be at most ${MOST_FLOORS} floors`)
  .refine((all) => new Set(all.map(({ name }) => name.toLowerCase())).size === all.length, {
    message: 'must have a name each',
  })
  .refine(
    (all) => {
      const ids = all.flatMap(({ id }) => id ?? []);
      return new Set(ids).size === ids.length;
    },
    { message: 'must name each floor once' },
  );

export const newSite = z.strictObject({
  name: requiredLine(120),
  city: requiredLine(120),
  zone,
  hours: workingHours,
  holidays: holidays.default([]),
});
export type NewSite = z.output<typeof newSite>;

export const changeSiteRequest = z.strictObject({
  version: versionRead,
  name: requiredLine(120).optional(),
  city: requiredLine(120).optional(),
  zone: zone.optional(),
  hours: workingHours.optional(),
  holidays: holidays.optional(),
  floors: floors.optional(),
});
export type ChangeSiteRequest = z.output<typeof changeSiteRequest>;

/** A site with its usual working hours and holidays. */
export const siteDetail = z.strictObject({
  id: z.int(),
  version: z.int(),
  name: z.string(),
  city: z.string(),
  zone: z.string(),
  hours: week,
  holidays: z.array(holiday),
  /** From the lowest to the highest. */
  floors: z.array(z.strictObject({ id: z.int(), name: z.string() })),
  people: z.int(),
  places: z.int(),
});
export type SiteDetail = z.output<typeof siteDetail>;

export const newTeam = z.strictObject({
  name: requiredLine(120),
  /** The team it is a part of. */
  parentId: subjectId.nullable().default(null),
});
export type NewTeam = z.output<typeof newTeam>;

const members = z
  .array(subjectId, { error: 'must be a list of people' })
  .max(MOST_OF_TEAM, `may name at most ${MOST_OF_TEAM} people`);
export const changeTeamRequest = z.strictObject({
  version: versionRead,
  name: requiredLine(120).optional(),
  /** Who leads it, one of those in it. */
  leadId: subjectId.nullable().optional(),
  parentId: subjectId.nullable().optional(),
  /** Who is put into it, and taken out of it. */
  into: members.optional(),
  outOf: members.optional(),
});
export type ChangeTeamRequest = z.output<typeof changeTeamRequest>;

/** A team, who leads it and how many are in it. */
export const teamDetail = z.strictObject({
  id: z.int(),
  version: z.int(),
  name: z.string(),
  lead: named.nullable(),
  parent: named.nullable(),
  members: z.int(),
});
export type TeamDetail = z.output<typeof teamDetail>;

const cell = z.string({ error: 'must be text' }).max(500, 'may be at most 500 characters long');
export const importPeopleRequest = z.strictObject({
  rows: z
    .array(
      z.strictObject(
        Object.fromEntries(PEOPLE_FILE_COLUMNS.map((column) => [column, cell.optional()])),
      ),
      { error: 'must be a list of rows' },
    )
    .min(1, 'must have a row')
    .max(MOST_PEOPLE_CHANGED, `may have at most ${MOST_PEOPLE_CHANGED} rows`),
  /** Whether it is only looked at, and nothing is done. */
  check: z.boolean({ error: 'must be true or false' }).default(true),
  /** Whether each who is new gets a letter of welcome. */
  welcome: z.boolean({ error: 'must be true or false' }).default(true),
});
export type ImportPeopleRequest = {
  rows: PeopleFileRow[];
  check: boolean;
  welcome: boolean;
};

/** What a file of people would do, or did. */
export const peopleImported = z.strictObject({
  /** The first of those who are new. */
  added: z.array(
    z.strictObject({ name: z.string(), email: z.string(), site: z.string().nullable() }),
  ),
  addedInAll: z.int(),
  /** The first of those who change, and what of them, a clause each. */
  changed: z.array(z.strictObject({ id: z.int(), name: z.string(), what: z.array(z.string()) })),
  changedInAll: z.int(),
  /** How many change in each field. */
  fields: z.record(z.string(), z.int()),
  same: z.int(),
  /** Rows that cannot be read, from 1; they are left out. */
  problems: z.array(
    z.strictObject({
      row: z.int(),
      field: z.enum(PEOPLE_FILE_COLUMNS),
      message: z.string(),
      mend: z.string().nullable(),
    }),
  ),
  changes: z.array(changeNumber),
});
export type PeopleImported = z.output<typeof peopleImported>;

export const organizationDetail = z.strictObject({
  name: z.string(),
  /** What new people begin with. */
  firstWeekday: z.int(),
  clock: z.enum(['24', '12']),
  /** Steps of the first hour that are done, and those that were left for later. */
  done: z.array(z.enum(START_STEPS)),
  later: z.array(z.enum(START_STEPS)),
  people: z.int(),
  places: z.int(),
  mail: z.strictObject({
    /** Where letters go: a mail server, or the Mailroom that stands in for one. */
    by: z.enum(['server', 'mailroom']),
    /** The address of the mail server, without a password. */
    server: z.string().nullable(),
    /** When somebody saw that a letter arrived; null for never. */
    triedAt: z.int().nullable(),
    /** What became of the last trial, as long as nobody has seen it arrive. */
    trial: z
      .strictObject({
        at: z.int(),
        to: z.string(),
        state: z.enum(['waiting', 'sent', 'failed']),
        failure: z.string().nullable(),
      })
      .nullable(),
    /** Letters of welcome that wait until mail has been tried. */
    waiting: z.int(),
  }),
});
export type OrganizationDetail = z.output<typeof organizationDetail>;

export const changeOrganizationRequest = z.strictObject({
  name: requiredLine(120).optional(),
  firstWeekday: z.int('must be 1 for Monday to 7 for Sunday').min(1).max(7).optional(),
  clock: z.enum(['24', '12'], { error: 'must be "24" or "12"' }).optional(),
  /** Steps that are left for later. */
  later: z.array(z.enum(START_STEPS)).max(START_STEPS.length).optional(),
  /** Whether the first site is right as it is. */
  siteIsRight: z.literal(true).optional(),
});
export type ChangeOrganizationRequest = z.output<typeof changeOrganizationRequest>;

/** What the log of the house is about. */
export const LOGGED_THINGS = [
  'person',
  'team',
  'site',
  'place',
  'meeting',
  'organization',
] as const;
export type LoggedThing = (typeof LOGGED_THINGS)[number];

export const houseLogQuery = z.strictObject({
  /** Whoever did it, or in whose name. */
  person: z.coerce.number().pipe(subjectId).optional(),
  what: z.enum(LOGGED_THINGS, { error: `must be one of ${LOGGED_THINGS.join(', ')}` }).optional(),
  /** Days, the last one included. */
  first: calendarDate.optional(),
  last: calendarDate.optional(),
  /** The last entry that is there already; what follows it is earlier. */
  after: idInPath.optional(),
});
export type LogQuery = z.output<typeof houseLogQuery>;

/** What was done in the house, the latest first; of meetings no more than what kind of thing. */
export const houseLog = z.strictObject({
  entries: z
    .array(
      logEntry.extend({
        thing: z.enum(LOGGED_THINGS),
        /** Which, by its name at that moment; null of a meeting. */
        about: z.string().nullable(),
      }),
    )
    .max(MOST_LOGGED),
  more: z.boolean(),
});
export type HouseLog = z.output<typeof houseLog>;

/** /api/administration: the organization, its sites and its people. */
export const administrationRoutes = defineRoutes({
  'GET /api/administration/organization': {
    may: 'administer organization',
    answer: organizationDetail,
  },
  'PATCH /api/administration/organization': {
    may: 'administer organization',
    body: changeOrganizationRequest,
    answer: nothing,
  },
  'POST /api/administration/mail/trial': {
    may: 'administer organization',
    answer: nothing,
  },
  'POST /api/administration/mail/arrived': {
    may: 'administer organization',
    answer: z.strictObject({ released: z.int() }),
  },
  'GET /api/administration/sites': {
    may: 'administer organization',
    answer: z.strictObject({ sites: z.array(siteDetail), teams: z.array(teamDetail) }),
  },
  'POST /api/administration/sites': {
    may: 'administer organization',
    body: newSite,
    answer: z.strictObject({ id: z.int(), change: changeNumber }),
    status: 201,
  },
  'POST /api/administration/days-off': {
    may: 'administer organization',
    body: dayOff,
    answer: z.strictObject({ sites: z.int(), changes: z.array(z.int()) }),
  },
  'PATCH /api/administration/sites/:id': {
    may: 'administer organization',
    params: byId,
    body: changeSiteRequest,
    answer: z.strictObject({ version: z.int(), change: changeNumber.nullable() }),
  },
  'POST /api/administration/teams': {
    may: 'administer organization',
    body: newTeam,
    answer: z.strictObject({ id: z.int(), change: changeNumber }),
    status: 201,
  },
  'PATCH /api/administration/teams/:id': {
    may: 'administer organization',
    params: byId,
    body: changeTeamRequest,
    answer: z.strictObject({ version: z.int(), change: changeNumber.nullable() }),
  },
  'POST /api/administration/teams/:id/remove': {
    may: 'administer organization',
    params: byId,
    body: z.strictObject({ version: versionRead }),
    answer: z.strictObject({ version: z.int(), change: changeNumber.nullable() }),
  },
  'GET /api/administration/log': {
    may: 'administer organization',
    query: houseLogQuery,
    answer: houseLog,
  },
  'GET /api/administration/log.csv': {
    may: 'administer organization',
    cost: 'many',
    query: houseLogQuery,
    answer: file('text/csv'),
  },
  'GET /api/administration/people': {
    may: 'administer organization',
    query: staffQuery,
    answer: staffList,
  },
  'POST /api/administration/people/read': {
    may: 'administer organization',
    body: readPeopleRequest,
    answer: peopleRead,
    transaction: false,
  },
  'POST /api/administration/people': {
    may: 'administer organization',
    cost: 'many',
    body: addPeopleRequest,
    answer: peopleChanged,
    status: 201,
  },
  'PATCH /api/administration/people': {
    may: 'administer organization',
    cost: 'many',
    body: changePeopleRequest,
    answer: peopleChanged,
  },
  'GET /api/administration/people.csv': {
    may: 'administer organization',
    cost: 'many',
    answer: file('text/csv'),
  },
  'POST /api/administration/import': {
    may: 'administer organization',
    cost: 'many',
    body: importPeopleRequest,
    answer: peopleImported,
  },
  'POST /api/administration/people/end': {
    may: 'administer organization',
    cost: 'many',
    body: chosenPeople,
    answer: peopleChanged,
  },
  'POST /api/administration/people/return': {
    may: 'administer organization',
    cost: 'many',
    body: chosenPeople,
    answer: peopleChanged,
  },
  'POST /api/administration/people/welcome': {
    may: 'administer organization',
    cost: 'many',
    body: chosenPeople,
    answer: z.strictObject({ letters: z.int() }),
  },
  'POST /api/administration/people/:id/link': {
    may: 'administer organization',
    params: byId,
    answer: z.strictObject({ link: z.string() }),
    // Its answer is kept nowhere.
    transaction: false,
  },
});
