import type { Place } from '../../contract/places.ts';

/** What there is to know of a place beside its name, each in a few words. */
export const placeFacts = (place: Pick<Place, 'floor' | 'capacity' | 'features'>): string[] =>
  [
    place.floor && `floor ${place.floor}`,
    place.capacity > 1 ? `${place.capacity} seats` : '',
    ...place.features,
  ].filter((fact) => fact !== '');
