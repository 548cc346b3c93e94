import { useEffect, useRef, useState } from 'react';
import { fetched } from '../design/fetched.ts';
import { FIELD_BOX, FIELD_LABEL, FIELD_LOOK, FIELD_PLACEHOLDER, type Begun } from './fieldLook.ts';

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
  const begun = useRef<Begun>({ text: '', hasFocus: false, isEntered: false });
  useEffect(() => {
    let isGone = false;
    // After what the page shows first.
    const timer = setTimeout(() => {
      load().then(
        (part) => {
          if (isGone) return;
          const field = input.current;
          begun.current.text = field?.value ?? '';
          begun.current.hasFocus = field !== null && document.activeElement === field;
          setField(() => part);
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
      if (event.key !== '/' || event.target !== document.body) return;
      event.preventDefault();
      input.current?.focus();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [Field]);
  if (Field) return <Field begun={begun.current} onKeys={onKeys} onGone={onGone} />;
  return (
    <div className={FIELD_BOX}>
      <textarea
        ref={input}
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
          begun.current.isEntered = text.trim() !== '';
        }}
      />
    </div>
  );
}
