import { useCallback, useSyncExternalStore } from 'react';
import { tellUser } from '../design/notices.ts';
import { errorText, isUnreachable } from './api.ts';
import { undoable } from './undo.ts';

/**
 * What this window's person does to things that are drawn: each is drawn as it will be from the moment it is done,
 * those on one thing go to the server one after the other, and while that cannot be reached they wait.
 */

/** What a drawn thing is called, such as an occurrence in the calendar. */
type Thing = string;

interface OwnAct<Patch> {
  /** The event that it changes: acts on one go in order. */
  on: string;
  /** What is drawn otherwise meanwhile, and how. */
  draws?: { thing: Thing; as: Patch };
  run: () => Promise<unknown>;
  /** Reads again what shows it; what is drawn meanwhile goes afterwards. */
  refresh: () => Promise<unknown>;
}

/** How often the server is tried while it cannot be reached: twice as long each time. Milliseconds. */
const AGAIN_MS = { first: 1_000, most: 15_000 };
/** So long an act waits for a server that is away. Milliseconds. */
const LONGEST_WAIT_MS = 15 * 60_000;
/** More than this nobody does by hand while something hangs. */
const MOST_WAITING = 200;

interface Drawn {
  act: number;
  as: unknown;
}

let drawn: ReadonlyMap<Thing, Drawn> = new Map();
let waiting = 0;
let count = 0;
const last = new Map<string, Promise<unknown>>();
/** Acts that came after one that failed are not done: they were done to what it would have made. */
const broken = new Map<string, number>();
const listeners = new Set<() => void>();
const tellAll = () => listeners.forEach((listener) => listener());
const listen = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

/** Does something to one's own, after what was done to the same before it. It says itself what became of it. */
export function doInOrder<Patch>({ on, draws, run, refresh }: OwnAct<Patch>): Promise<void> {
  const act = ++count;
  if (draws) draw(draws.thing, { act, as: draws.as });
  const before = last.get(on) ?? Promise.resolve();
  const done: Promise<void> = before.then(async () => {
    try {
      if ((broken.get(on) ?? 0) > act) return;
      await whenReached(run);
    } catch (error) {
      // What waits behind it was done to what this would have made.
      broken.set(on, count + 1);
      const more =
        last.get(on) === done ? '' : ' What you did to it after that was not done either.';
      tellUser(`${errorText(error)}${more}`);
    }
    await refresh();
    if (draws && drawn.get(draws.thing)?.act === act) draw(draws.thing, null);
  });
  last.set(on, done);
  void done.finally(() => {
    if (last.get(on) !== done) return;
    last.delete(on);
    broken.delete(on);
  });
  return undoable(done);
}

function draw(thing: Thing, as: Drawn | null): void {
  const next = new Map(drawn);
  if (as) next.set(thing, as);
  else next.delete(thing);
  drawn = next;
  tellAll();
}

/** Tries until the server is reached: nothing that was done by hand is lost to a bad line. */
async function whenReached(run: () => Promise<unknown>): Promise<void> {
  const until = Date.now() + LONGEST_WAIT_MS;
  for (let pause = AGAIN_MS.first; ; pause = Math.min(pause * 2, AGAIN_MS.most)) {
    try {
      await run();
      return;
    } catch (error) {
      if (!isUnreachable(error) || Date.now() > until || waiting >= MOST_WAITING) throw error;
    }
    setWaiting(1);
    await new Promise<void>((resolve) => {
      const go = () => {
        clearTimeout(timer);
        window.removeEventListener('online', go);
        resolve();
      };
      const timer = setTimeout(go, pause);
      window.addEventListener('online', go);
    });
    setWaiting(-1);
  }
}

const warn = (event: BeforeUnloadEvent) => event.preventDefault();

function setWaiting(by: number): void {
  waiting += by;
  // Whoever would leave now is asked: what waits is lost with the window.
  if (waiting === 1 && by === 1) window.addEventListener('beforeunload', warn);
  if (waiting === 0) window.removeEventListener('beforeunload', warn);
  tellAll();
}

/** How things are drawn while what was done to them is under way, by their names. */
export function useDrawn<Patch>(): (thing: Thing) => Patch | undefined {
  const now = useSyncExternalStore(listen, () => drawn);
  return useCallback((thing) => now.get(thing)?.as as Patch | undefined, [now]);
}

/** How much waits for the server to be reached. */
export const useWaiting = (): number => useSyncExternalStore(listen, () => waiting);
