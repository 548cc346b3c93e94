import { useRef } from 'react';
import { counted } from '../../core/counted.ts';
import { Button } from '../design/controls.tsx';
import { outsider, type LineUpEntry } from './address.ts';
import { entriesOf, type InDoubt } from './useNameList.ts';

/** Entries of a list of which it is not sure who is meant: each with whom it could be, and none is lost. */
export function Doubts({
  doubts,
  onSettle,
}: {
  doubts: readonly InDoubt[];
  onSettle: (one: InDoubt, fresh?: readonly LineUpEntry[]) => void;
}) {
  const list = useRef<HTMLUListElement>(null);
  if (doubts.length === 0) return null;
  /** The focus goes on to the next of them, or back to the field above. */
  const settle = (one: InDoubt, fresh?: readonly LineUpEntry[]) => {
    const at = doubts.indexOf(one);
    const next = list.current?.children[at + 1] ?? list.current?.children[at - 1];
    const field = list.current?.parentElement?.querySelector('input');
    (next?.querySelector('button') ?? field)?.focus();
    onSettle(one, fresh);
  };
  return (
    <ul
      ref={list}
      aria-label={`${counted(doubts.length, 'name')} to look at`}
      className="mt-1.5 grid gap-1 border-l-2 border-alpenglow pl-2.5"
    >
      {doubts.map((one) => (
        <li key={one.text} className="flex flex-wrap items-center gap-x-2 gap-y-1 py-0.5">
          <span className="min-w-0 break-words">
            <b className="font-semibold">{one.text}</b>{' '}
            <span className="text-ink-2">{questionOf(one)}</span>
          </span>
          {one.is === 'doubtful' &&
            one.choices.map((choice) => (
              <Button
                key={`${choice.kind}${choice.id}`}
                className="px-2 py-0.5 text-[13px]"
                onClick={() => settle(one, entriesOf(choice, one.isOptional))}
              >
                {choice.name}
              </Button>
            ))}
          {one.is === 'nobodys' && (
            <Button
              className="px-2 py-0.5 text-[13px]"
              onClick={() => settle(one, [outsider(one.email)])}
            >
              Write to it all the same
            </Button>
          )}
          <Button
            look="quiet"
            className="px-1 py-0.5 text-[13px]"
            aria-label={`Leave out ${one.text}`}
            onClick={() => settle(one)}
          >
            Leave out
          </Button>
        </li>
      ))}
    </ul>
  );
}

const questionOf = (one: InDoubt): string =>
  one.is === 'doubtful'
    ? one.choices.length === 1
      ? 'is that'
      : 'is one of'
    : one.is === 'nobodys'
      ? 'is an address that nobody here has'
      : 'is nobody here; type it otherwise, or an address';
