import { dismiss, tellUser } from '../design/notices.ts';

interface Step {
  id: number;
  run: () => Promise<void> | void;
  /** The changes it takes back, where they are told by number. */
  changes: readonly number[];
  notice: number;
}

let steps: readonly Step[] = [];
let nextId = 1;
const MOST_STEPS = 30;

/**
 * Tells the user what was done and how to take it back: by the message, or by Ctrl+Z, latest first.
 * @param changes what it takes back, so that it is no longer offered once that is done elsewhere
 */
export function offerUndo(text: string, run: Step['run'], changes: readonly number[] = []): void {
  const step: Step = { id: nextId++, run, changes, notice: 0 };
  step.notice = tellUser(text, () => take(step));
  steps = [...steps.slice(1 - MOST_STEPS), step];
}

/** Offers no more to take back what was taken back elsewhere, as from a log. */
export function withdrawUndo(changes: readonly number[]): void {
  const gone = steps.filter((one) => one.changes.some((change) => changes.includes(change)));
  steps = steps.filter((one) => !gone.includes(one));
  for (const { notice } of gone) dismiss(notice);
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
