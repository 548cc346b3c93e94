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
  void step.run();
}

/** Takes the latest step back. @returns false when there is none */
export function undoLatest(): boolean {
  const latest = steps.at(-1);
  if (latest) take(latest);
  return latest !== undefined;
}
