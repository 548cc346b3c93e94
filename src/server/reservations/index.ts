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
} from './presence.ts';
export { deleteClosure, insertClosure, readClosures } from './closures.ts';
export {
  holdResources,
  reserve,
  ResourcesTaken,
  type HeldResources,
  type Wanting,
} from './reserve.ts';
export { closeNewUnits, moveUnits, widenClaims } from './places.ts';
export { followOccurrences, writeReservations } from './write.ts';
export { readHad, readTeamNames, readTeams } from './rules.ts';
export { noteBelonging, readContact, readNote, writeNote } from './notes.ts';
export type { ReservationRequest } from './request.ts';
