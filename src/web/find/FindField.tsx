import { Command } from 'cmdk';
import { useRef, useState, type ClipboardEvent, type KeyboardEvent } from 'react';
import type { Found } from '../../contract/search.ts';
import { errorText } from '../client/index.ts';
import { tellUser } from '../design/notices.ts';
import { ListField } from '../design/ListField.tsx';
import { useFound, useHighlight, valueOf } from './useFound.ts';

const ITEM =
  'flex cursor-pointer justify-between gap-3 rounded-sm px-2.5 py-1.5 data-[selected=true]:bg-gentian-wash max-sm:py-2.5';

/** What is offered before anything is typed. */
export interface Suggestions {
  heading: string;
  entries: readonly { key: string; name: string; detail: string; pick: () => void }[];
}

/** What else a text can be; what is the last of meanings is chosen, and never taken by Enter alone. */
export interface OtherMeaning {
  detail: string;
  pick: () => void;
  isLast?: boolean;
}

/** The combined field: a person, a team or a place, found by a part of the name and picked. */
export function FindField({
  label,
  placeholder = label,
  kinds,
  onFound,
  onText,
  suggestions = [],
  onList,
  hint,
  inFlow = false,
  autoFocus = false,
}: {
  label: string;
  placeholder?: string;
  /** What may be picked; everything unless said. */
  kinds?: readonly Found['kind'][];
  onFound: (one: Found) => void;
  /** Something else that what is typed can be, such as an address; null where it is not. */
  onText?: (typed: string) => OtherMeaning | null;
  suggestions?: readonly Suggestions[];
  /** Lists of names, which are read as a whole: when a text is one, and what reads it. */
  onList?: { is: (text: string) => boolean; read: (text: string) => Promise<void> };
  hint?: string;
  /** Whether the list always stands below the field, in a place of its own. */
  inFlow?: boolean;
  autoFocus?: boolean;
}) {
  const [text, setText] = useState('');
  const [open, setOpen] = useState(false);
  const { found: all, searching, isBehind, whenFound } = useFound(onList?.is(text) ? '' : text);
  const fitting = (some: readonly Found[]) =>
    kinds ? some.filter((one) => kinds.includes(one.kind)) : some;
  const found = fitting(all);
  const typed = text.trim();
  const isList = !!typed && !!onList?.is(typed);
  const meant = typed && !isList ? (onText?.(typed) ?? null) : null;
  // What nobody is called shows once it is known that nobody is.
  const other = meant?.isLast && isBehind ? null : meant;
  const entries = [
    ...found.map(valueOf),
    ...(other ? ['as typed'] : []),
    ...(isList ? ['list'] : []),
    ...(typed ? [] : suggestions.flatMap((one) => one.entries.map(({ key }) => key))),
  ];
  // Nothing is chosen before something is typed, nor what was found for less of it.
  const isLastAlone = found.length === 0 && other?.isLast;
  const first = isList ? 'list' : typed && !isBehind && !isLastAlone ? (entries[0] ?? null) : null;
  const highlight = useHighlight(typed, entries, first);
  const isListed = inFlow || open;
  const done = (pick: () => void) => {
    pick();
    setText('');
    setOpen(false);
  };
  const [isListing, setListing] = useState(false);
  const latest = useRef(text);
  latest.current = text;
  /** Enter on what was found for less than what is typed waits for what is meant. */
  const take = (event: KeyboardEvent) => {
    if (event.key !== 'Enter' || !typed || !isBehind || highlight.isByHand) return;
    event.preventDefault();
    void whenFound().then(
      (some) => {
        const [one] = fitting(some);
        if (latest.current !== text) return;
        if (one) done(() => onFound(one));
        else if (other && !other.isLast) done(other.pick);
      },
      () => undefined,
    );
  };
  const paste = (event: ClipboardEvent) => {
    const pasted = event.clipboardData.getData('text');
    // What is pasted into words that stand there is a part of them.
    if (!onList?.is(pasted) || typed) return;
    event.preventDefault();
    readList(pasted);
  };
  /** What could not be read stays in the field. */
  const readList = (list: string) => {
    setOpen(false);
    setListing(true);
    onList!
      .read(list)
      .then(() => latest.current === text && setText(''))
      .catch((error: unknown) => {
        setText(
          list
            .split(/[\n\r]/)
            .map((line) => line.trim())
            .filter(Boolean)
            .join('; '),
        );
        tellUser(errorText(error));
      })
      .finally(() => setListing(false));
  };
  return (
    <Command
      shouldFilter={false}
      {...highlight.props}
      label={label}
      className="relative"
      onKeyDown={take}
    >
      <ListField
        isOpen={isListed}
        value={text}
        onChange={(value) => {
          setText(value);
          setOpen(true);
        }}
      >
        <input
          autoFocus={autoFocus}
          onFocus={() => setOpen(true)}
          onClick={() => setOpen(true)}
          onBlur={() => setOpen(false)}
          onPaste={paste}
          aria-busy={isListing}
          onKeyDown={(event) => {
            if (event.key !== 'Escape' || !open || inFlow) return;
            // Only the list is left, and not the form around it.
            event.stopPropagation();
            setOpen(false);
          }}
          placeholder={placeholder}
          title={hint}
          className="w-full rounded-sm border border-edge bg-sheet px-2.5 py-1.5 placeholder:text-ink-2 max-sm:min-h-11"
        />
      </ListField>
      <Command.List
        hidden={!isListed}
        onMouseDown={(event) => event.preventDefault()}
        className={
          inFlow
            ? 'mt-1 max-h-60 overflow-y-auto'
            : 'absolute inset-x-0 top-full z-30 mt-1 max-h-80 min-w-72 overflow-y-auto rounded-sm border border-edge bg-sheet p-1.5 shadow-lg'
        }
      >
        {found.map((one) => (
          <Command.Item
            key={valueOf(one)}
            value={valueOf(one)}
            onSelect={() => done(() => onFound(one))}
            className={ITEM}
          >
            <span className="font-medium">{one.name}</span>
            <span className="text-right text-ink-2">{one.detail}</span>
          </Command.Item>
        ))}
        {other && (
          <Command.Item value="as typed" onSelect={() => done(other.pick)} className={ITEM}>
            <span className="font-medium">{typed}</span>
            <span className="text-right text-ink-2">{other.detail}</span>
          </Command.Item>
        )}
        {isList && (
          <Command.Item value="list" onSelect={() => readList(typed)} className={ITEM}>
            <span className="font-medium">Add all of them</span>
            <span className="text-right text-ink-2">names and addresses, one after another</span>
          </Command.Item>
        )}
        {typed && found.length === 0 && !other && !isList && (
          <p className="px-2.5 py-1.5 text-ink-2">
            {searching ? 'Looking …' : `Nobody and nothing begins with “${typed}”.`}
          </p>
        )}
        {!typed &&
          suggestions.map(({ heading, entries }) => (
            <div key={heading}>
              <p className="px-2.5 pt-1.5 pb-0.5 text-xs font-semibold text-ink-2">{heading}</p>
              {entries.map(({ key, name, detail, pick }) => (
                <Command.Item key={key} value={key} onSelect={() => done(pick)} className={ITEM}>
                  <span className="font-medium">{name}</span>
                  <span className="text-right text-ink-2">{detail}</span>
                </Command.Item>
              ))}
            </div>
          ))}
        {!typed && !inFlow && suggestions.length === 0 && (
          <p className="px-2.5 py-1.5 text-ink-2">Type a part of a name.</p>
        )}
      </Command.List>
    </Command>
  );
}
