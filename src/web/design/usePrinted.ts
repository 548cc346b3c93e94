import { useSyncExternalStore } from 'react';

const paper = () => window.matchMedia('print');

/** Between the two events of printing, while some browsers lay paper out before the query says so. */
let isBegun = false;

function subscribe(listener: () => void) {
  const query = paper();
  const begin = () => {
    isBegun = true;
    listener();
  };
  const end = () => {
    isBegun = false;
    listener();
  };
  // Where the end of printing is not told, it shows by that.
  const changed = () => {
    if (!query.matches) isBegun = false;
    listener();
  };
  query.addEventListener('change', changed);
  window.addEventListener('beforeprint', begin);
  window.addEventListener('afterprint', end);
  return () => {
    query.removeEventListener('change', changed);
    window.removeEventListener('beforeprint', begin);
    window.removeEventListener('afterprint', end);
  };
}

/** Whether the view is being put on paper, where nothing can be opened. */
export const usePrinted = (): boolean =>
  useSyncExternalStore(subscribe, () => isBegun || paper().matches);
