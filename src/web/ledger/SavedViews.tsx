import { X } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { may, useMe } from '../client/index.ts';
import { Button, IconButton, TextInput } from '../design/controls.tsx';
import { useKeepView, useLedgerViews } from './useLedger.ts';
import { viewOf, type LedgerAddress } from './useLedgerAddress.ts';

/** What is there for everybody, mine first. */
const USUAL = [
  { name: 'Mine to come', query: 'whose=mine&when=coming' },
  { name: 'Mine that were', query: 'whose=mine&when=past&order=down' },
  { name: 'Everybody’s to come', query: 'whose=all&when=coming' },
];
const FOR_STEWARDS = [
  { name: 'Asked for', query: 'whose=all&when=coming&state=requested' },
  { name: 'By place', query: 'whose=all&when=coming&group=place' },
];

/** Ways to look at the ledger, one click each: the usual ones, and one's own. */
export function SavedViews({
  address,
  children,
}: {
  address: LedgerAddress;
  children?: ReactNode;
}) {
  const me = useMe();
  const { data } = useLedgerViews();
  const keep = useKeepView();
  const [name, setName] = useState<string | null>(null);
  const usual = [...USUAL, ...(!may(me, 'look-after') ? [] : FOR_STEWARDS)];
  const mine = data?.views ?? [];
  const isKnown = [...usual, ...mine].some((one) => viewOf(one.query) === address.view);
  const chip = (query: string) =>
    `reach shrink-0 rounded-full border px-3 py-0.5 max-sm:min-h-11 ${
      viewOf(query) === address.view
        ? 'border-gentian bg-gentian-wash font-semibold'
        : 'border-edge bg-sheet hover:border-ink-2'
    }`;
  return (
    <div
      role="group"
      aria-label="Views"
      className="flex items-center gap-1.5 max-sm:overflow-x-auto sm:flex-wrap"
    >
      {children}
      {usual.map((one) => (
        <button
          key={one.name}
          type="button"
          aria-pressed={viewOf(one.query) === address.view}
          className={chip(one.query)}
          onClick={() => address.show(one.query)}
        >
          {one.name}
        </button>
      ))}
      {mine.map((one) => (
        <span key={one.id} className="flex shrink-0 items-center">
          <button
            type="button"
            aria-pressed={viewOf(one.query) === address.view}
            className={chip(one.query)}
            onClick={() => address.show(one.query)}
          >
            {one.name}
          </button>
          <IconButton
            small
            label={`Leave out the view “${one.name}”`}
            onClick={() => keep.mutate({ id: one.id })}
          >
            <X size={13} aria-hidden="true" />
          </IconButton>
        </span>
      ))}
      {!isKnown && name === null && (
        <Button look="quiet" className="shrink-0 py-0.5" onClick={() => setName('')}>
          Keep this view
        </Button>
      )}
      {name !== null && (
        <form
          className="flex shrink-0 items-center gap-1.5"
          onSubmit={(event) => {
            event.preventDefault();
            if (name.trim() === '') return;
            keep.mutate({ name: name.trim(), query: address.view });
            setName(null);
          }}
        >
          <TextInput
            autoFocus
            aria-label="Name of the view"
            placeholder="Name of the view"
            className="w-44"
            maxLength={60}
            value={name}
            onChange={(event) => setName(event.target.value)}
            onKeyDown={(event) => event.key === 'Escape' && setName(null)}
          />
          <Button type="submit" disabled={name.trim() === ''}>
            Keep it
          </Button>
        </form>
      )}
    </div>
  );
}
