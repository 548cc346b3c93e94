/** The organization, its sites and its people, for those who administer it. */
export { letCome, letIn } from './letIn.ts';
export { organizationHistory } from './organizationHistory.ts';
export { lockHome } from './peopleQueries.ts';
export { personHistory } from './personHistory.ts';
export { administrationApi, leavingApi } from './routes.ts';
export { siteHistory } from './sites.ts';
export { teamHistory } from './teams.ts';
