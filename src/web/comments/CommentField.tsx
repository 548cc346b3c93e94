import { useId, useRef, useState, type KeyboardEvent } from 'react';
import { type CommentsResponse } from '../../contract/comments.ts';
import { MOST_OF_COMMENT } from '../../contract/limits.ts';
import { Field, TextArea } from '../design/controls.tsx';
import { typingAt } from './mentions.ts';

/** A text in which an `@` offers the names of those who can be spoken to. */
export function CommentField({
  label,
  words,
  people,
  onChange,
  autoFocus = false,
}: {
  label: string;
  words: string;
  people: CommentsResponse['people'];
  onChange: (words: string) => void;
  autoFocus?: boolean;
}) {
  const field = useRef<HTMLTextAreaElement>(null);
  const id = useId();
  const [caret, setCaret] = useState(0);
  const [active, setActive] = useState(0);
  const [closedAt, setClosedAt] = useState<string | null>(null);
  const typing = closedAt === words ? null : typingAt(words, caret, people);
  const offered = typing?.offered ?? [];
  const take = (name: string) => {
    const next = `${words.slice(0, typing!.from)}@${name} ${words.slice(typing!.to)}`;
    const at = typing!.from + name.length + 2;
    onChange(next);
    setCaret(at);
    setActive(0);
    requestAnimationFrame(() => {
      field.current?.focus();
      field.current?.setSelectionRange(at, at);
    });
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (offered.length === 0 || event.ctrlKey || event.metaKey) return;
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step) setActive((active + step + offered.length) % offered.length);
    else if (event.key === 'Enter' || event.key === 'Tab') take(offered[active]!.name);
    else if (event.key === 'Escape') setClosedAt(words);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div className="relative">
      <Field label={label} bare>
        <TextArea
          ref={field}
          rows={2}
          maxLength={MOST_OF_COMMENT}
          value={words}
          placeholder={label}
          autoFocus={autoFocus}
          role={people.length > 0 ? 'combobox' : undefined}
          aria-expanded={people.length > 0 ? offered.length > 0 : undefined}
          aria-controls={offered.length > 0 ? id : undefined}
          aria-activedescendant={offered.length > 0 ? `${id}-${active}` : undefined}
          onChange={(event) => {
            onChange(event.target.value);
            setCaret(event.target.selectionStart);
            setActive(0);
          }}
          onSelect={(event) => setCaret(event.currentTarget.selectionStart)}
          onKeyDown={onKeyDown}
        />
      </Field>
      {offered.length > 0 && (
        <ul
          id={id}
          role="listbox"
          aria-label="Whom you speak to"
          className="absolute top-full left-0 z-20 w-64 rounded-sm border border-edge bg-sheet py-1 shadow-lg"
        >
          {offered.map(({ id: personId, name }, k) => (
            <li
              key={personId}
              id={`${id}-${k}`}
              role="option"
              aria-selected={k === active}
              className={`cursor-pointer px-3 py-1.5 max-sm:py-3 ${k === active ? 'bg-gentian-wash' : ''}`}
              onPointerDown={(event) => {
                event.preventDefault();
                take(name);
              }}
            >
              {name}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
