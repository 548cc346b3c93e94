import { tellUser } from '../design/notices.ts';

interface Step {
  id: number;
  run: () => Promise<void> | void;
}

let steps: readonly Step[] = [];
let nextId = 1;
const MOST_STEPS = 30;

/** Tells the user what was done and how to take it back: by the message, or by Ctrl+Z, latest first. */
export function offerUndo(text: string, run: Step['run']): void {
  const step = { id: nextId++, run };
  steps = [...steps.slice(1 - MOST_STEPS), step];
  tellUser(text, () => take(step));
}

function take(step: Step): void {
  // Taken back once, whichever way was first.
  if (!steps.some((one) => one.id === step.id)) return;
  steps = steps.filter((one) => one.id !== step.id);
  void undoable(Promise.resolve(step.run()));
}

const underWay = new Set<Promise<unknown>>();

/** Marks work whose undo will be offered when it is done; taking back waits for it. */
export function undoable<T>(work: Promise<T>): Promise<T> {
  underWay.add(work);
  const done = () => underWay.delete(work);
  work.then(done, done);
  return work;
}

/** Takes the latest step back, once what is still under way is done. @returns false when there is none */
export function undoLatest(): boolean {
  if (underWay.size > 0) {
    void Promise.allSettled(underWay).then(() => undoLatest());
    return true;
  }
  const latest = steps.at(-1);
  if (latest) take(latest);
  return latest !== undefined;
}
