import { useQuery } from '@tanstack/react-query';
import { Command } from 'cmdk';
import { useState, type ClipboardEvent } from 'react';
import type { MetPerson, ReadAddresses, RememberedLineUp } from '../../contract/lineUps.ts';
import type { Found } from '../../contract/search.ts';
import { errorText, readApi, sendApi, useChosenEntry, useFound, valueOf } from '../app/index.ts';
import { tellUser } from '../design/notices.ts';
import { isMailAddress, outsider, recalled, required, type Asked } from './address.ts';

const ITEM =
  'flex cursor-pointer justify-between gap-3 rounded-sm px-2.5 py-1.5 data-[selected=true]:bg-gentian-wash';

export const useLineUps = () =>
  useQuery({
    queryKey: ['line-ups'],
    queryFn: () => readApi<{ lineUps: RememberedLineUp[]; met: MetPerson[] }>('/line-ups'),
    staleTime: 60_000,
  });

/**
 * Adds to the line-up: by a part of a name, a whole team, an address, a pasted list of addresses,
 * people met lately, or a line-up that is remembered.
 */
export function AddMember({
  placesOnly,
  onAdd,
  there,
}: {
  placesOnly: boolean;
  onAdd: (fresh: readonly Asked[]) => void;
  /** Ids that are in the line-up already, mine among them. */
  there: ReadonlySet<number>;
}) {
  const [text, setText] = useState('');
  const [open, setOpen] = useState(false);
  const { found: all, searching } = useFound(text);
  const found = placesOnly ? all.filter((one) => one.kind === 'resource') : all;
  const [chosen, setChosen] = useChosenEntry(found);
  const lineUps = useLineUps();
  const typed = text.trim();

  const add = (fresh: readonly Asked[]) => {
    onAdd(fresh);
    setText('');
    setOpen(false);
  };
  const addFound = (one: Found) =>
    add((one.kind === 'team' ? one.memberIds : [one.id]).map(required));
  const paste = (event: ClipboardEvent) => {
    const pasted = event.clipboardData.getData('text');
    if (placesOnly || (pasted.match(/@/g) ?? []).length < 2) return;
    event.preventDefault();
    void sendApi<ReadAddresses>('POST', '/line-ups/addresses', { text: pasted }).then(
      ({ people, outside, unreadable }) => {
        add([
          ...people.filter((one) => !there.has(one.id)).map((one) => required(one.id)),
          ...outside.map((one) => outsider(one.email)),
        ]);
        if (unreadable.length > 0)
          tellUser(`Not an address, and left out: ${unreadable.slice(0, 5).join('; ')}`);
      },
      (error: unknown) => tellUser(errorText(error)),
    );
  };
  const suggestions = !typed && !placesOnly;
  const met = (lineUps.data?.met ?? []).filter((one) => !there.has(one.id));
  return (
    <Command
      shouldFilter={false}
      value={chosen}
      onValueChange={setChosen}
      label={placesOnly ? 'Add a place' : 'Add a person, team or place'}
      className="relative mt-2"
    >
      <Command.Input
        value={text}
        onValueChange={(value) => {
          setText(value);
          setOpen(true);
        }}
        onFocus={() => setOpen(true)}
        onClick={() => setOpen(true)}
        onBlur={() => setOpen(false)}
        onPaste={paste}
        onKeyDown={(event) => event.key === 'Escape' && setOpen(false)}
        placeholder={placesOnly ? 'Add a place' : 'Add a person, team or place'}
        title={
          placesOnly ? undefined : 'A part of a name, an address, or a pasted list of addresses'
        }
        className="w-full rounded-sm border border-edge bg-sheet px-2.5 py-1.5 placeholder:text-ink-2"
      />
      <Command.List
        hidden={!open}
        onMouseDown={(event) => event.preventDefault()}
        className="absolute inset-x-0 top-full z-30 mt-1 max-h-80 min-w-72 overflow-y-auto rounded-sm border border-edge bg-sheet p-1.5 shadow-lg"
      >
        {typed &&
          found.map((one) => (
            <Command.Item
              key={`${one.kind}${one.id}`}
              value={valueOf(one)}
              onSelect={() => addFound(one)}
              className={ITEM}
            >
              <span className="font-medium">{one.name}</span>
              <span className="text-right text-ink-2">{one.detail}</span>
            </Command.Item>
          ))}
        {!placesOnly && isMailAddress(typed) && (
          <Command.Item value="address" onSelect={() => add([outsider(typed)])} className={ITEM}>
            <span className="font-medium">{typed}</span>
            <span className="text-right text-ink-2">outside, by mail</span>
          </Command.Item>
        )}
        {typed && found.length === 0 && !isMailAddress(typed) && (
          <p className="px-2.5 py-1.5 text-ink-2">
            {searching ? 'Looking …' : `Nobody and nothing begins with “${text}”.`}
          </p>
        )}
        {suggestions && lineUps.data && (
          <>
            {lineUps.data.lineUps.length > 0 && <Heading>Line-ups you remember</Heading>}
            {lineUps.data.lineUps.map((one) => (
              <Command.Item
                key={`remembered${one.id}`}
                value={`remembered ${one.id}`}
                onSelect={() => add(one.members.map(recalled))}
                className={ITEM}
              >
                <span className="font-medium">{one.name}</span>
                <span className="text-right text-ink-2">{one.members.length} in it</span>
              </Command.Item>
            ))}
            <Heading>Met lately</Heading>
            {met.map((one) => (
              <Command.Item
                key={`met${one.id}`}
                value={`met ${one.id}`}
                onSelect={() => add([required(one.id)])}
                className={ITEM}
              >
                <span className="font-medium">{one.name}</span>
                <span className="text-right text-ink-2">{one.detail}</span>
              </Command.Item>
            ))}
            {met.length === 0 && <p className="px-2.5 py-1.5 text-ink-2">Type a part of a name.</p>}
          </>
        )}
      </Command.List>
    </Command>
  );
}

const Heading = ({ children }: { children: string }) => (
  <p className="px-2.5 pt-1.5 pb-0.5 text-xs font-semibold text-ink-2">{children}</p>
);
