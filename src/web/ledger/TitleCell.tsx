import { useState } from 'react';
import type { LedgerRow } from '../../contract/ledger.ts';
import { errorText, useChanged, useMe } from '../client/index.ts';
import { TextInput } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { whenWords } from './words.ts';
import { useEventActions, versionNow } from '../meetings/index.ts';

const LONGEST = 200;

/** What a booking is for; where nobody else is asked to it, it is changed where it stands. */
export function TitleCell({ row }: { row: LedgerRow }) {
  const me = useMe();
  const [typed, setTyped] = useState<string | null>(null);
  const rename = useRename(row);
  if (row.title === null) return <span className="text-ink-2">not shown to you</span>;
  const title = rename.wanted ?? row.title;
  if (row.version === null) return title;
  if (typed === null) {
    return (
      <button
        type="button"
        className="reach max-w-full truncate text-left decoration-dotted underline-offset-4 hover:underline"
        aria-label={`${title}: change what ${row.place}, ${whenWords(row, me.zone, me.clock)}, is for`}
        onClick={() => setTyped(title)}
      >
        {title}
      </button>
    );
  }
  const leave = () => setTyped(null);
  const save = () => {
    leave();
    const next = typed.trim();
    if (next !== '' && next !== title) void rename.to(next);
  };
  return (
    <TextInput
      autoFocus
      aria-label={`What ${row.place}, ${whenWords(row, me.zone, me.clock)}, is for`}
      value={typed}
      maxLength={LONGEST}
      className="-my-1 h-8 w-full outline-offset-[-2px]"
      onFocus={(event) => event.target.select()}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={save}
      onKeyDown={(event) => {
        if (event.key === 'Enter') save();
        if (event.key === 'Escape') leave();
      }}
    />
  );
}

/** Gives a booking another name, shown at once; it says so and is taken back by undo. */
function useRename({ eventId, occurrence, version, title }: LedgerRow) {
  const changed = useChanged();
  const actions = useEventActions();
  const [wanted, setWanted] = useState<{ title: string; before: string | null } | null>(null);
  const to = async (next: string) => {
    setWanted({ title: next, before: title });
    try {
      await actions.change(eventId!, {
        version: Math.max(version!, versionNow(eventId!) ?? 0),
        ...(occurrence !== null && { scope: 'one', occurrence }),
        title: next,
        tell: 'nobody',
      });
      await changed('resource');
    } catch (error) {
      tellUser(errorText(error));
    }
    setWanted(null);
  };
  return { to, wanted: wanted?.before === title ? wanted.title : null };
}
