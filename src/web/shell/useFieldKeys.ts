import { useEffect, type RefObject } from 'react';

/** From wherever nothing is typed, / goes to the header's field and ? lists the keys. */
export function useFieldKeys(
  field: RefObject<HTMLElement | null>,
  onKeys: () => void,
  isOn = true,
): void {
  useEffect(() => {
    if (!isOn) return;
    const listen = (event: KeyboardEvent) => {
      const isTyping =
        event.target instanceof HTMLElement &&
        (/^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName) || event.target.isContentEditable);
      if (isTyping || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === '/') field.current?.focus();
      else if (event.key === '?') onKeys();
      else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [field, onKeys, isOn]);
}
