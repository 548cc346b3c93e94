import { useEffect } from 'react';
import type { Interval } from '../../core/time/interval.ts';

/** n and p step to the next and the previous opening, in the order of time. */
export function useOpeningKeys(
  openings: readonly Interval[],
  chosen: Interval | null,
  choose: (span: Interval) => void,
): void {
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (/^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) || target.isContentEditable) return;
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (openings.length === 0 || (event.key !== 'n' && event.key !== 'p')) return;
      const ordered = [...openings].sort((a, b) => a.start - b.start);
      const next =
        event.key === 'n'
          ? (ordered.find((one) => one.start > (chosen?.start ?? 0)) ?? ordered[0]!)
          : (ordered.findLast((one) => one.start < (chosen?.start ?? Infinity)) ?? ordered.at(-1)!);
      choose(next);
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [openings, chosen, choose]);
}
