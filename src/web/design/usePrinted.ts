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
  query.addEventListener('change', listener);
  window.addEventListener('beforeprint', begin);
  window.addEventListener('afterprint', end);
  return () => {
    query.removeEventListener('change', listener);
    window.removeEventListener('beforeprint', begin);
    window.removeEventListener('afterprint', end);
  };
}

/** Whether the view is being put on paper, where nothing can be opened. */
export const usePrinted = (): boolean =>
  useSyncExternalStore(subscribe, () => isBegun || paper().matches);
