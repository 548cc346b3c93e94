/** What is reserved of which resource: nothing else writes reservations and exclusive claims. */
export { readClaims, readResources, writeReservations } from './queries.ts';
export {
  holdResources,
  reserve,
  ResourcesTaken,
  type HeldResources,
  type Wish,
} from './reserve.ts';
