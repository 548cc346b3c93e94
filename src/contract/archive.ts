import { defineRoutes, file } from './route.ts';

/** /api/account/archive: all that is kept of somebody, for themselves, as one file. */
export const archiveRoutes = defineRoutes({
  'GET /api/account/archive': { may: 'read own', cost: 'many', answer: file('application/zip') },
});
