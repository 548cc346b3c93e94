/** The places there are, for those who look after them. */
export { AddPlaces, ChangePlace } from './Upkeep.tsx';
export { PlaceLog } from './PlaceLog.tsx';
