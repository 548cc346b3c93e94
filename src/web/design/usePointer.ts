import { useLayoutEffect, useState, type RefObject } from 'react';

/**
 * How far down its own edge a panel points, in pixels, so that it is beside what it belongs to; null where
 * that cannot be seen.
 * @param panel the panel
 * @param selector of what it belongs to, of which the first that can be seen counts
 */
export function usePointer(
  panel: RefObject<HTMLElement | null>,
  selector: string | null,
): { top: number; right: number } | null {
  const [at, setAt] = useState<{ top: number; right: number } | null>(null);
  useLayoutEffect(() => {
    if (selector === null) return;
    let asked = 0;
    const place = () => {
      asked = 0;
      const frame = panel.current?.getBoundingClientRect();
      const seen = [...document.querySelectorAll(selector)]
        .map((one) => {
          const box = one.getBoundingClientRect();
          return { box, inside: one.closest('[role=region]')?.getBoundingClientRect() };
        })
        .find(({ box, inside }) => {
          const middle = (box.top + box.bottom) / 2;
          return box.height > 0 && (!inside || (middle > inside.top && middle < inside.bottom));
        });
      setAt((before) => {
        if (!frame || !seen) return null;
        const top = Math.round((seen.box.top + seen.box.bottom) / 2);
        const right = Math.round(innerWidth - frame.left);
        return before?.top === top && before.right === right ? before : { top, right };
      });
    };
    const ask = () => (asked ||= requestAnimationFrame(place));
    place();
    document.addEventListener('scroll', ask, { capture: true, passive: true });
    window.addEventListener('resize', ask);
    const sizes = new ResizeObserver(ask);
    if (panel.current) sizes.observe(panel.current);
    // It may be drawn later, or move without anything being scrolled.
    const changes = new MutationObserver(ask);
    const view = document.getElementById('view');
    if (view) changes.observe(view, { subtree: true, childList: true, attributeFilter: ['style'] });
    return () => {
      document.removeEventListener('scroll', ask, { capture: true });
      window.removeEventListener('resize', ask);
      sizes.disconnect();
      changes.disconnect();
      cancelAnimationFrame(asked);
    };
  }, [panel, selector]);
  return selector === null ? null : at;
}
