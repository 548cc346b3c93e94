/** The organization, its sites and its people, for those who administer it. */
export { personHistory } from './personHistory.ts';
export { administrationApi, leavingApi } from './routes.ts';
export { siteHistory } from './sites.ts';
export { teamHistory } from './teams.ts';
