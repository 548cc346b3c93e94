/** The organization, its sites and its people, for those who administer it. */
export { letCome, letIn } from './letIn.ts';
export { noteOrganization, organizationHistory } from './organizationHistory.ts';
export { addPeople, changePeople, endPeople, returnPeople } from './people.ts';
export { lockHome, readHomeZone } from './peopleQueries.ts';
export { personHistory } from './personHistory.ts';
export { keepingApi } from './keeping.ts';
export { administrationApi, leavingApi } from './routes.ts';
export { siteHistory } from './sites.ts';
export { addTeam, changeTeam, removeTeam, teamHistory } from './teams.ts';
