import { useEffect, useRef, useState } from 'react';
import { fetched } from '../design/fetched.ts';
import { FIELD_BOX, FIELD_LABEL, FIELD_LOOK, FIELD_PLACEHOLDER } from './fieldLook.ts';

const FIELD_ID = 'field-soon';
const load = () => fetched(async () => (await import('./HeaderField.tsx')).HeaderField);

/**
 * The field of the header, which finds and reads sentences once that is fetched: right after the page is there, so
 * that Today does not wait for it. What is typed until then goes on in it.
 */
export function HeaderFieldSoon({
  onKeys,
  onGone,
}: {
  onKeys: () => void;
  onGone?: (() => void) | undefined;
}) {
  const [Field, setField] = useState<Awaited<ReturnType<typeof load>> | null>(null);
  const [text, setText] = useState('');
  const input = useRef<HTMLTextAreaElement>(null);
  const [isEntered, setEntered] = useState(false);
  useEffect(() => {
    let isGone = false;
    // After what the page shows first.
    const timer = setTimeout(() => {
      load().then(
        (part) => {
          if (!isGone) setField(() => part);
        },
        // Whoever types then is told by what they ask for next.
        () => undefined,
      );
    });
    return () => {
      isGone = true;
      clearTimeout(timer);
    };
  }, []);
  useEffect(() => {
    if (Field) return;
    const listen = (event: KeyboardEvent) => {
      const isTyping =
        event.target instanceof HTMLElement &&
        event.target.matches('input, textarea, select, [contenteditable]');
      const isFree = !isTyping && !event.ctrlKey && !event.metaKey && !event.altKey;
      if (!isFree) return;
      if (event.key === '/') input.current?.focus();
      else if (event.key === '?') onKeys();
      else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [Field, onKeys]);
  if (Field) {
    // As it is at this moment: keys are pressed while it is fetched.
    const begun = { text, hasFocus: document.activeElement?.id === FIELD_ID, isEntered };
    return <Field begun={begun} onKeys={onKeys} onGone={onGone} />;
  }
  return (
    <div className={FIELD_BOX}>
      <textarea
        ref={input}
        id={FIELD_ID}
        rows={1}
        role="combobox"
        aria-expanded={false}
        aria-label={FIELD_LABEL}
        autoFocus={!!onGone}
        value={text}
        placeholder={FIELD_PLACEHOLDER}
        className={`${FIELD_LOOK} max-h-9 max-sm:max-h-11`}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key !== 'Enter') return;
          event.preventDefault();
          setEntered(text.trim() !== '');
        }}
      />
    </div>
  );
}
