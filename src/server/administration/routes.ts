import { administrationRoutes, type ImportPeopleRequest } from '../../contract/administration.ts';
import { leavingRoutes } from '../../contract/leaving.ts';
import { implement } from '../http/index.ts';
import { importPeople, peopleFile } from './import.ts';
import { forget } from './leaving/forget.ts';
import { readHoldings } from './leaving/holdings.ts';
import { leave } from './leaving/leave.ts';
import { logFile, readLog } from './log.ts';
import { changeOrganization, mailArrived, organizationOf, tryMail } from './organization.ts';
import { readPeople } from './pasted.ts';
import {
  addPeople,
  changePeople,
  endPeople,
  linkByHand,
  listStaff,
  returnPeople,
  welcomeAgain,
} from './people.ts';
import { readSites } from './siteQueries.ts';
import { addDayOff, addSite, changeSite } from './sites.ts';
import { readTeams } from './teamQueries.ts';
import { addTeam, changeTeam, removeTeam } from './teams.ts';

export const administrationApi = implement(administrationRoutes, (platform) => {
  const { pool } = platform;
  return {
    'GET /api/administration/organization': ({ actor }) => organizationOf(pool, platform, actor),
    'PATCH /api/administration/organization': (tx, { body }) => changeOrganization(tx, body),
    'POST /api/administration/mail/trial': (tx, { actor }) => tryMail(tx, platform, actor),
    'POST /api/administration/mail/arrived': async (tx, { actor }) => ({
      released: await mailArrived(tx, platform, actor),
    }),
    'GET /api/administration/sites': async () => {
      const [sites, teams] = await Promise.all([readSites(pool), readTeams(pool)]);
      return { sites, teams };
    },
    'POST /api/administration/sites': (tx, { actor, body }) => addSite(tx, platform, actor, body),
    'POST /api/administration/days-off': (tx, { actor, body }) =>
      addDayOff(tx, platform, actor, body),
    'PATCH /api/administration/sites/:id': (tx, { actor, params, body }) =>
      changeSite(tx, platform, actor, params.id, body),
    'POST /api/administration/teams': (tx, { actor, body }) => addTeam(tx, platform, actor, body),
    'PATCH /api/administration/teams/:id': (tx, { actor, params, body }) =>
      changeTeam(tx, platform, actor, params.id, body),
    'POST /api/administration/teams/:id/remove': (tx, { actor, params, body }) =>
      removeTeam(tx, platform, actor, params.id, body.version),
    'GET /api/administration/log': ({ actor, query }) => readLog(pool, platform, actor, query),
    'GET /api/administration/log.csv': async ({ actor, query, ctx }) => {
      ctx.attachment('log.csv');
      ctx.type = 'text/csv; charset=utf-8';
      ctx.body = await logFile(pool, platform, actor, query);
    },
    'GET /api/administration/people': ({ query }) => listStaff(pool, query),
    'POST /api/administration/people/read': ({ body }) => readPeople(pool, body),
    'POST /api/administration/people': (tx, { actor, body }) =>
      addPeople(tx, platform, actor, body),
    'PATCH /api/administration/people': (tx, { actor, body }) =>
      changePeople(tx, platform, actor, body),
    'GET /api/administration/people.csv': async ({ ctx }) => {
      ctx.attachment('people.csv');
      ctx.type = 'text/csv; charset=utf-8';
      ctx.body = await peopleFile(pool);
    },
    'POST /api/administration/import': (tx, { actor, body }) =>
      importPeople(tx, platform, actor, body as ImportPeopleRequest),
    'POST /api/administration/people/end': (tx, { actor, body }) =>
      endPeople(tx, platform, actor, body),
    'POST /api/administration/people/return': (tx, { actor, body }) =>
      returnPeople(tx, platform, actor, body),
    'POST /api/administration/people/welcome': async (tx, { actor, body }) => ({
      letters: await welcomeAgain(tx, platform, actor, body),
    }),
    'POST /api/administration/people/:id/link': async ({ actor, params }) => ({
      link: await linkByHand(platform, actor, params.id),
    }),
  };
});

export const leavingApi = implement(leavingRoutes, (platform) => ({
  'GET /api/administration/people/:id/holdings': ({ actor, params, query }) =>
    readHoldings(platform.pool, actor, params.id, query, platform.clock.now()),
  'POST /api/administration/people/:id/forget': (tx, { actor, params, body }) =>
    forget(tx, platform, actor, params.id, body.version),
  'POST /api/administration/people/:id/leave': (tx, { actor, params, body }) =>
    leave(tx, platform, actor, params.id, body),
}));
