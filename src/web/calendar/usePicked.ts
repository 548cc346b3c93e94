import { useLocation, useNavigate } from 'react-router';
import type { Held } from '../grid/index.ts';
import { type Draft } from '../meetings/index.ts';

/** A new event that is begun in the calendar. */
export type Picked = Held & { copyOf?: Draft; with?: number };

/** React Router's own note of where an entry stands in the history. */
const placeInHistory = (): number => (window.history.state as { idx?: number } | null)?.idx ?? 0;

interface PickedState {
  picked?: Picked & { id: string; place: number };
}

/**
 * The new event that is being made beside the calendar. It is an entry of the history, so that Back
 * closes its panel before it leaves the view, and a reload opens it again.
 */
export function usePicked() {
  const navigate = useNavigate();
  const { state, pathname, search } = useLocation();
  const picked = (state as PickedState | null)?.picked ?? null;
  /** The window's own address is the latest; what was open beside the calendar makes room. */
  const here = () => {
    const params = new URLSearchParams(window.location.search || search);
    params.delete('event');
    params.delete('on');
    return `${pathname}?${params.toString()}`;
  };
  const pick = (begun: Picked) =>
    void navigate(here(), {
      state: {
        picked: {
          ...begun,
          id: crypto.randomUUID?.() ?? `${Date.now()}`,
          place: placeInHistory() + 1,
        },
      } satisfies PickedState,
    });
  const close = () => {
    // Back to where it was opened; from further on, on from there.
    if (picked && picked.place === placeInHistory()) void navigate(-1);
    else void navigate(here(), { replace: true, state: null });
  };
  return [picked, pick, close] as const;
}
