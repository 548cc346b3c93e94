/** Rooms and other resources: their state, their days, and ways out where one is taken. */
export {
  readPlaceResources as readCatalogue,
  readOwners,
  readSites,
  updateOwners,
  type ResourceFacts,
} from './queries.ts';
export { explainTaken } from './taken.ts';
export { placesApi } from './routes.ts';
