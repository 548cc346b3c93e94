/** The directory of the organization, which keeps its accounts here (SCIM 2.0). */
export { directoryApi } from './routes.ts';
export { directoryRoutes } from './scim.ts';
