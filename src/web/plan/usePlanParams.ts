import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';

export type ParamChanges = Record<string, string | number | null>;

/**
 * The parameters of the address, changed at once: what is set here is shown in the next frame, and
 * the router follows. Whoever navigates elsewhere meanwhile is believed.
 */
export function usePlanParams(): [URLSearchParams, (changes: ParamChanges) => void] {
  const [routed, setRouted] = useSearchParams();
  const address = routed.toString();
  const [own, setOwn] = useState<string | null>(null);
  // What was set here and has not come back from the router yet, in order.
  const pending = useRef<string[]>([]);
  const latest = useRef(address);
  useEffect(() => {
    const at = pending.current.indexOf(address);
    pending.current = at >= 0 ? pending.current.slice(at + 1) : [];
    if (pending.current.length > 0) return;
    latest.current = address;
    setOwn(null);
  }, [address]);

  const set = useCallback(
    (changes: ParamChanges) => {
      const after = new URLSearchParams(latest.current);
      for (const [name, value] of Object.entries(changes)) {
        if (value === null || value === '') after.delete(name);
        else after.set(name, String(value));
      }
      const text = after.toString();
      if (text === latest.current) return;
      latest.current = text;
      pending.current.push(text);
      setOwn(text);
      setRouted(after, { replace: true, preventScrollReset: true });
    },
    [setRouted],
  );
  const shown = own ?? address;
  const params = useMemo(() => new URLSearchParams(shown), [shown]);
  return [params, set];
}
