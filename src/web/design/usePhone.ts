import { useSyncExternalStore } from 'react';

const narrow = () => window.matchMedia('(max-width: 640px)');

function subscribe(listener: () => void) {
  const query = narrow();
  query.addEventListener('change', listener);
  return () => query.removeEventListener('change', listener);
}

/** Whether the window is as narrow as a phone's. */
export const usePhone = (): boolean => useSyncExternalStore(subscribe, () => narrow().matches);
