import { lazy } from 'react';

/** Asking for another time, fetched when it is shown: few of those who look at an invitation do. */
export const AnotherTimeLater = lazy(() =>
  import('./AnotherTime.tsx').then((module) => ({ default: module.AnotherTime })),
);
