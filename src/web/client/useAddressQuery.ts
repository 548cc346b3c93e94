import { useCallback } from 'react';
import { useSearchParams } from 'react-router';

/**
 * The query of the address, and a way to change it that goes on from the address as it is and not as it was last
 * drawn: choices made one right after the other all count.
 */
export function useAddressQuery() {
  const [params, setParams] = useSearchParams();
  const change = useCallback(
    (
      update: (before: URLSearchParams) => URLSearchParams,
      options?: Parameters<typeof setParams>[1],
    ) => setParams(update(new URLSearchParams(window.location.search)), options),
    [setParams],
  );
  return [params, change] as const;
}
