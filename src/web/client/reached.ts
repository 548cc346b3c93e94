import { useSyncExternalStore } from 'react';

/** A server that begins anew, or a line that stutters, is no news. Milliseconds. */
const SAID_AFTER_MS = 4_000;

let isAway = false;
let timer: ReturnType<typeof setTimeout> | undefined;
const listeners = new Set<() => void>();

/** Notes whether the server is heard of. */
export function setReached(isReached: boolean): void {
  if (isReached) {
    clearTimeout(timer);
    timer = undefined;
    tell(false);
  } else timer ??= setTimeout(() => tell(true), SAID_AFTER_MS);
}

function tell(next: boolean): void {
  if (next === isAway) return;
  isAway = next;
  for (const listener of listeners) listener();
}

function listen(listener: () => void) {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

/** Whether the server has been silent for long enough that it is to be said. */
export const useIsAway = (): boolean => useSyncExternalStore(listen, () => isAway);
