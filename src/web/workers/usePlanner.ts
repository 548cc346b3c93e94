import { wrap, type Remote } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type {
  Computed,
  Explained,
  Planner,
  PlannerDoubts,
  PlannerQuestion,
} from './planner.worker.ts';

type Known = Parameters<Planner['know']>[0];

let planner: Remote<Planner> | undefined;

function remote(): Remote<Planner> {
  planner ??= wrap<Planner>(
    new Worker(new URL('./planner.worker.ts', import.meta.url), { type: 'module' }),
  );
  return planner;
}

/** Longer than a key takes to be pressed again: explaining does not hold up the next question. */
const PAUSE_MS = 150;

/**
 * The planner's answers, computed off the main thread; the last ones stay until the next are there.
 * @param doubts what is explained once nothing has been asked for a moment; null for nothing
 */
export function usePlanner(
  known: Known,
  question: PlannerQuestion,
  doubts: PlannerDoubts | null,
): { computed: Computed | null; explained: Explained | null } {
  const [computed, setComputed] = useState<{ to: PlannerQuestion; answer: Computed } | null>(null);
  const [explained, setExplained] = useState<Explained | null>(null);
  const sent = useRef<Known | null>(null);
  useEffect(() => {
    let current = true;
    if (sent.current !== known) {
      sent.current = known;
      void remote().know(known);
    }
    void remote()
      .compute(question)
      .then((answer) => {
        if (current) setComputed({ to: question, answer });
      });
    return () => {
      current = false;
    };
  }, [known, question]);
  useEffect(() => {
    if (!doubts) return;
    let current = true;
    const timer = setTimeout(() => {
      void remote()
        .explain(question, doubts)
        .then((answer) => {
          if (current && answer) setExplained(answer);
        });
    }, PAUSE_MS);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [known, question, doubts]);
  const isAnswer = computed !== null && answers(computed.to, question);
  return { computed: isAnswer ? computed.answer : null, explained };
}

/** Whether an answer to one question may stand until that to another is there: its people and days are the same. */
function answers(given: PlannerQuestion, asked: PlannerQuestion): boolean {
  const known = new Set(given.lineUp.map((one) => one.id));
  const { start, end } = given.wishes.window;
  return (
    start <= asked.wishes.window.start &&
    end >= asked.wishes.window.end &&
    asked.lineUp.every((one) => known.has(one.id))
  );
}
