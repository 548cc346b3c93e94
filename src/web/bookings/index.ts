/** Bookings as they are used: being there, and what a steward has to agree to. */
export { HolderField, holderOf, type Holder } from './HolderField.tsx';
export { MyPresence, PresenceHere, PresenceIn } from './Presence.tsx';
export { StewardsNote, StewardsNoteFields, stewardsNote } from './StewardsNote.tsx';
export { PlacesWanted } from './PlacesWanted.tsx';
export { useMyBookings, usePlaceRequests } from './useBookings.ts';
export { bookVerb, PlaceTerms, useNeedsAgreement } from './PlaceTerms.tsx';
