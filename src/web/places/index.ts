/** Places: what there is to know of one, booking it, ways out where it is taken. */
export { Alternatives, takenIn } from './Alternatives.tsx';
export { PlacesWays } from './PlacesWays.tsx';
export { bothClocks } from './clocks.ts';
export { KIND_NAMES, placeFacts, STATE_WORDS } from './facts.ts';
export { Features, Opened, Wishing } from './Features.tsx';
export { useBooking } from './useBooking.ts';
export { DaySteps, Sentence, SiteWord, SizeWord } from './sentenceParts.tsx';
