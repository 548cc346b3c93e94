/** What is reserved of which resource: nothing else writes reservations and exclusive claims. */
export {
  readBookingsOf,
  readClaims,
  readClaimsNear,
  readRequested,
  readResources,
  RULES_SQL,
  type ResourceClaim,
} from './queries.ts';
export {
  agree,
  checkIn,
  checkOut,
  markWarned,
  readReservation,
  type PlacedReservation,
} from './presenceQueries.ts';
export { deleteClosures, insertClosures, readClosures } from './closureQueries.ts';
export {
  holdResources,
  reserve,
  ResourcesTaken,
  type HeldResources,
  type Wanting,
} from './reserve.ts';
export { closeNewUnits, moveUnits, widenClaims } from './placeQueries.ts';
export { followOccurrences, followOrganizers, writeReservations } from './writeQueries.ts';
export { readHad, readTeamNames, readTeams } from './ruleQueries.ts';
export { noteBelonging, readContact, readNote, writeNote } from './noteQueries.ts';
export type { ReservationRequest } from './request.ts';
