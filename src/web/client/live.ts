import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { LiveStream } from './liveStream.ts';
import { setReached } from './reached.ts';
import { readAgain, readAgainIfBefore } from './readAgain.ts';

/** A window that nobody looks at stops listening after this; looking elsewhere for a moment is nothing. */
const UNSEEN_MS = 5_000;

/** What the parts of this window show, with how many of them do. */
const shown = new Map<string, number>();
let changed: () => void = () => undefined;

/** Hears of changes to what a view shows, such as `calendar:42` or `resource:all`, while it does. */
export function useShown(subjects: readonly string[]): void {
  const key = [...new Set(subjects)].sort().join();
  useEffect(() => {
    const list = key ? key.split(',') : [];
    for (const one of list) shown.set(one, (shown.get(one) ?? 0) + 1);
    changed();
    return () => {
      for (const one of list) {
        const left = shown.get(one)! - 1;
        if (left > 0) shown.set(one, left);
        else shown.delete(one);
      }
      changed();
    };
  }, [key]);
}

/**
 * Reads again what the server says has changed of what this window shows. Windows that nobody looks at
 * do not listen, but for one of each browser, which brings reminders; what they show is read again when
 * they are looked at.
 */
export function useLive(): void {
  const client = useQueryClient();
  useEffect(() => {
    const stream = new LiveStream({
      connect: (subjects) =>
        new EventSource(`/api/live${subjects.length ? `?subjects=${subjects.join(',')}` : ''}`),
      changed: (notice) => readAgain(client, notice),
      // Whether they are signed in is looked at: their session may have ended elsewhere.
      refused: () => readAgain(client, ['person']),
      reached: setReached,
      outOfDate: (subjects, before) => readAgainIfBefore(client, [...subjects], before),
    });
    let keepsWatch = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const look = () => {
      clearTimeout(timer);
      if (document.visibilityState === 'visible' || keepsWatch) stream.resume();
      else timer = setTimeout(() => stream.pause(), UNSEEN_MS);
    };
    const endWatch = keepWatch(() => {
      keepsWatch = true;
      look();
    });
    const show = () => stream.show([...shown.keys()]);
    changed = show;
    show();
    look();
    document.addEventListener('visibilitychange', look);
    return () => {
      changed = () => undefined;
      document.removeEventListener('visibilitychange', look);
      clearTimeout(timer);
      endWatch();
      stream.end();
    };
  }, [client]);
}

/**
 * Calls `begin` when this window is the one of its browser that listens unseen: one at a time, the next
 * when that is closed; none where the browser has no locks.
 * @returns a function that gives it up
 */
function keepWatch(begin: () => void): () => void {
  const ending = new AbortController();
  const { signal } = ending;
  void (navigator.locks as LockManager | undefined)
    ?.request('marmot.live', { signal }, () => {
      begin();
      return new Promise<void>((end) => signal.addEventListener('abort', () => end()));
    })
    .catch(() => undefined);
  return () => ending.abort();
}
