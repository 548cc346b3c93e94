import { useCallback, useEffect, useRef, useState } from 'react';
import { useLocation } from 'react-router';
import { asKept, readPlan, writePlan, type PlanAddress } from '../lineUp/index.ts';

/**
 * The plan that the address holds, changed at once: the entry of the browser's history is rewritten
 * without the router, which would render everything again, and later than the next frame. Going
 * back, reloading and sharing find what was set; whoever navigates elsewhere is believed.
 */
export function usePlanAddress(): {
  asked: PlanAddress;
  set: (changes: Partial<PlanAddress>) => void;
  /** Writes changes into the address alone, without anything being shown anew. */
  addressOnly: (changes: Partial<PlanAddress>) => void;
  /** Puts another plan in place of this one, as to go back to it. */
  restore: (plan: PlanAddress) => void;
} {
  const { key, pathname, search } = useLocation();
  const [asked, setAsked] = useState(() => readPlan(search));
  const latest = useRef(asked);
  const heard = useRef(key);
  useEffect(() => {
    if (heard.current === key) return;
    heard.current = key;
    latest.current = readPlan(search);
    setAsked(latest.current);
  }, [key, search]);

  const write = useCallback(
    (plan: PlanAddress) => {
      latest.current = plan;
      if (window.location.pathname !== pathname) return;
      try {
        window.history.replaceState(window.history.state, '', pathname + writePlan(plan));
      } catch {
        // Some browsers refuse more than so many in half a minute; the next one takes all along.
      }
    },
    [pathname],
  );
  const restore = useCallback(
    (plan: PlanAddress) => {
      write(plan);
      setAsked(plan);
    },
    [write],
  );
  const addressOnly = useCallback(
    (changes: Partial<PlanAddress>) => write({ ...latest.current, ...asKept(changes) }),
    [write],
  );
  const set = useCallback(
    (changes: Partial<PlanAddress>) => restore({ ...latest.current, ...asKept(changes) }),
    [restore],
  );
  return { asked, set, addressOnly, restore };
}
