import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useLocation } from 'react-router';

export type ParamChanges = Record<string, string | number | null>;

/**
 * The parameters of the address, changed at once: the entry of the browser's history is rewritten
 * without the router, which would render everything again, and later than the next frame. Going
 * back, reloading and sharing find what was set; whoever navigates elsewhere is believed.
 */
export function usePlanParams(): {
  params: URLSearchParams;
  set: (changes: ParamChanges) => void;
  /** Goes back to parameters as they were. */
  restore: (params: URLSearchParams) => void;
} {
  const { key, pathname, search } = useLocation();
  const [own, setOwn] = useState(search);
  const latest = useRef(search);
  useEffect(() => {
    latest.current = search;
    setOwn(search);
  }, [key, search]);

  const restore = useCallback(
    (after: URLSearchParams) => {
      const text = after.toString();
      latest.current = text && `?${text}`;
      setOwn(latest.current);
      if (window.location.pathname === pathname)
        window.history.replaceState(window.history.state, '', pathname + latest.current);
    },
    [pathname],
  );
  const set = useCallback(
    (changes: ParamChanges) => {
      const after = new URLSearchParams(latest.current);
      for (const [name, value] of Object.entries(changes)) {
        if (value === null || value === '') after.delete(name);
        else after.set(name, String(value));
      }
      restore(after);
    },
    [restore],
  );
  const params = useMemo(() => new URLSearchParams(own), [own]);
  return { params, set, restore };
}
