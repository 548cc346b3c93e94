/** Bookings as they are used: being there, and what a steward has to agree to. */
export { MyPresence, PresenceHere, PresenceIn } from './Presence.tsx';
export { PlacesWanted } from './PlacesWanted.tsx';
