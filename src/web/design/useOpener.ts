import { useEffect, useRef, type RefObject } from 'react';

/**
 * Gives the focus back to what opened a panel when that closes, by whatever means, unless somebody has
 * gone on elsewhere meanwhile.
 * @returns for `onCloseAutoFocus`
 */
export function useOpener(open: boolean, content: RefObject<HTMLElement | null>) {
  const opener = useRef<HTMLElement | null>(null);
  const wasOpen = useRef(false);
  // Read while rendering: once it is open the panel has taken the focus.
  if (open && !wasOpen.current)
    opener.current = document.activeElement instanceof HTMLElement ? document.activeElement : null;
  wasOpen.current = open;
  useEffect(() => {
    const panel = content;
    return () => giveBack(opener.current, panel.current);
  }, [content]);
  return (event: Event) => {
    event.preventDefault();
    giveBack(opener.current, content.current);
  };
}

function giveBack(opener: HTMLElement | null, panel: HTMLElement | null): void {
  // What was focused in the panel goes with it.
  requestAnimationFrame(() => {
    const focused = document.activeElement;
    const isElsewhere = focused && focused !== document.body && !panel?.contains(focused);
    if (isElsewhere) return;
    const target =
      opener?.isConnected && opener !== document.body ? opener : document.getElementById('view');
    target?.focus({ preventScroll: true });
  });
}
