import { useSyncExternalStore } from 'react';

const paper = () => window.matchMedia('print');

function subscribe(listener: () => void) {
  const query = paper();
  query.addEventListener('change', listener);
  // Before paper is laid out, which some browsers do before the query changes.
  window.addEventListener('beforeprint', listener);
  return () => {
    query.removeEventListener('change', listener);
    window.removeEventListener('beforeprint', listener);
  };
}

/** Whether the view is being put on paper, where nothing can be opened. */
export const usePrinted = (): boolean => useSyncExternalStore(subscribe, () => paper().matches);
