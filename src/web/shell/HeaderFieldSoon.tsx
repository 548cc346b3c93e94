import { useCallback, useEffect, useRef, useState } from 'react';
import { fetched } from '../design/fetched.ts';
import { FIELD_BOX, FIELD_LABEL, FIELD_LOOK, FIELD_PLACEHOLDER } from './fieldLook.ts';
import { useFieldKeys } from './useFieldKeys.ts';

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
  /** Tried again by whoever comes to the field, where the line broke off. */
  const begin = useCallback(() => {
    load().then(
      (part) => setField(() => part),
      () => undefined,
    );
  }, []);
  useEffect(() => {
    // After what the page shows first.
    const timer = setTimeout(begin);
    return () => clearTimeout(timer);
  }, [begin]);
  useFieldKeys(input, onKeys, Field === null);
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
        onFocus={begin}
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
