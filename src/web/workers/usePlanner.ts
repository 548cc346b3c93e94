import { wrap, type Remote } from 'comlink';
import { useEffect, useState } from 'react';
import type { LineUpMember, Wishes } from '../../core/planner/lineUp.ts';
import type { Computed, Planner } from './planner.worker.ts';

let planner: Remote<Planner> | undefined;

function remote(): Remote<Planner> {
  planner ??= wrap<Planner>(
    new Worker(new URL('./planner.worker.ts', import.meta.url), { type: 'module' }),
  );
  return planner;
}

/** The planner's answer, computed off the main thread; the last one stays until the next is there. */
export function usePlanner(members: LineUpMember[], wishes: Wishes): Computed | null {
  const [computed, setComputed] = useState<Computed | null>(null);
  useEffect(() => {
    let current = true;
    void remote()
      .compute(members, wishes)
      .then((answer) => {
        if (current) setComputed(answer);
      });
    return () => {
      current = false;
    };
  }, [members, wishes]);
  return computed;
}
