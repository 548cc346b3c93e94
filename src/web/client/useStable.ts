import { useLayoutEffect, useMemo, useRef } from 'react';

/**
 * The same functions on every rendering, each calling the latest given: so that hundreds of
 * memoised parts are not rendered anew because a function is another one.
 */
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- whatever functions a view has
export function useStable<Functions extends Record<string, (...args: any[]) => unknown>>(
  functions: Functions,
): Functions {
  const latest = useRef(functions);
  useLayoutEffect(() => {
    latest.current = functions;
  });
  return useMemo(() => {
    const names = Object.keys(functions) as (keyof Functions)[];
    const entries = names.map((name) => [
      name,
      (...args: unknown[]) => latest.current[name]!(...args),
    ]);
    return Object.fromEntries(entries) as Functions;
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the names never change
  }, []);
}
