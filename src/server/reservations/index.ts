/** What is reserved of which resource: nothing else writes reservations and exclusive claims. */
export {
  allRules,
  readClaims,
  readResources,
  writeReservations,
  type KeptRules,
} from './queries.ts';
export { holdResources, reserve, ResourcesTaken, type HeldResources } from './reserve.ts';
export { readTeamNames } from './rules.ts';
export type { Wish } from './wish.ts';
