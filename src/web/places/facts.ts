import { type ResourceKind } from '../../contract/resourceKind.ts';
import type { ReservationState } from '../../core/booking/presence.ts';
import type { Place } from '../../contract/places.ts';

/** What several of a kind are called. */
export const KIND_NAMES: Record<ResourceKind, string> = {
  room: 'Rooms',
  lab: 'Labs',
  desk: 'Desks',
  equipment: 'Equipment',
  vehicle: 'Vehicles',
  parking: 'Parking',
};

/** What there is to know of a place beside its name, each in a few words. */
export const placeFacts = (place: Pick<Place, 'floor' | 'capacity' | 'features'>): string[] =>
  [
    place.floor && `floor ${place.floor}`,
    place.capacity > 1 ? `${place.capacity} seats` : '',
    ...place.features,
  ].filter((fact) => fact !== '');

/** What is said of a booking besides that it is there. */
export const STATE_WORDS: Record<ReservationState, string> = {
  requested: 'asked for',
  held: '',
  'in-use': 'in use',
  released: '',
};
