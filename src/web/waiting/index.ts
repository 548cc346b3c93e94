/** Places that are taken, and for which I wait. */
export { HeldForMe, PlacesAwaited } from './PlacesAwaited.tsx';
export { WaitForIt } from './WaitForIt.tsx';
export { useWaited } from './useWaiting.ts';
