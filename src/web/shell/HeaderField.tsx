import { Command } from 'cmdk';
import { useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { planPath, required } from '../lineUp/index.ts';
import type { Found } from '../../contract/search.ts';
import { ListField } from '../design/ListField.tsx';
import { SentenceChips } from './SentenceChips.tsx';
import { useChosenEntry, useFound, valueOf } from '../find/index.ts';
import { isWordy, useSentence } from './useSentence.ts';

const PLACES_TO_GO = [
  ['Today', '/'],
  ['Calendar', '/calendar'],
  ['Plan a meeting', '/plan'],
  ['Replies', '/replies'],
  ['Places', '/places'],
  ['People', '/people'],
  ['Mailroom', '/mailroom'],
  ['Preferences', '/preferences'],
  ['Cancelled lately', '/calendar/cancelled'],
] as const;

const ITEM =
  'flex cursor-pointer justify-between gap-4 rounded-sm px-3 py-1.5 data-[selected=true]:bg-gentian-wash';

/** Where choosing something leads: people and teams into Plan, places to their page. */
const addressOf = (found: Found): string => {
  if (found.kind === 'resource') return `/places?open=${found.id}`;
  const ids = found.kind === 'team' ? found.memberIds : [found.id];
  return planPath({ lineUp: ids.map(required) });
};

/**
 * The one field of the header: finds people, teams and places, goes to any view, and turns a sentence
 * into a plan.
 */
export function HeaderField({
  onKeys,
  onGone,
}: {
  onKeys: () => void;
  /** Where the field is opened for one use: it was used, or left. */
  onGone?: () => void;
}) {
  const [text, setText] = useState('');
  const [open, setOpen] = useState(false);
  const input = useRef<HTMLTextAreaElement>(null);
  const navigate = useNavigate();
  const { found, isBehind, whenFound } = useFound(text);
  const [chosen, setChosen] = useChosenEntry(found);
  const [sentence, understand, sought] = useSentence(text);
  const isSentence = sentence !== null;
  const isSought = sought !== null;
  useEffect(() => {
    if (isSought) setChosen('place');
    else if (isSentence) setChosen('sentence');
  }, [isSentence, isSought, setChosen]);

  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      const typing =
        event.target instanceof HTMLElement &&
        (/^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName) || event.target.isContentEditable);
      if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === '/') input.current?.focus();
      else if (event.key === '?') onKeys();
      else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [onKeys]);

  const go = (address: string) => {
    setText('');
    setOpen(false);
    input.current?.blur();
    onGone?.();
    void navigate(address);
  };
  // What stands there counts, and not what was understood of it a moment before.
  const plan = async (asMeeting = false) => {
    const first = found[0];
    const address = await understand(asMeeting).catch(() => null);
    if (address) go(address);
    else if (first) go(addressOf(first));
  };
  const takeFirst = async () => {
    const [first] = await whenFound().catch(() => []);
    if (input.current?.value !== text) return;
    if (first) go(addressOf(first));
    else if (views[0]) go(views[0][1]);
  };
  const views = PLACES_TO_GO.filter(([name]) =>
    name.toLowerCase().includes(text.trim().toLowerCase()),
  );

  return (
    <Command
      shouldFilter={false}
      value={chosen}
      onValueChange={setChosen}
      label="Find a person, a place or a view, or say a meeting"
      className="relative order-last h-9 w-full max-sm:order-none max-sm:h-11 max-sm:flex-1 lg:order-none lg:w-auto lg:max-w-[380px] lg:flex-1"
      onBlur={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget)) setOpen(false);
      }}
      onKeyDown={(event) => {
        if (event.key === 'Escape') {
          setOpen(false);
          (document.activeElement as HTMLElement).blur();
          onGone?.();
        } else if (event.key === 'Enter' && event.target === input.current) {
          const elsewhere =
            (sentence !== null || sought !== null) && chosen !== (sought ? 'place' : 'sentence');
          if (isWordy(text) && !elsewhere) {
            event.preventDefault();
            void plan();
          } else if (isBehind && (found[0] ? chosen === valueOf(found[0]) : views.length === 0)) {
            // What was found for less than what is typed is not meant.
            event.preventDefault();
            void takeFirst();
          }
        }
      }}
    >
      {/* Lies over what is below, and the list below its last line. */}
      <div className="absolute inset-x-0 top-0 z-40 grid gap-1">
        <ListField isOpen={open} value={text} onChange={setText}>
          <textarea
            ref={input}
            rows={1}
            autoFocus={!!onGone}
            onFocus={() => setOpen(true)}
            placeholder="Find, or say it: “kelp review with Ines Thu 14:00”"
            className={`field-sizing-content min-h-9 resize-none max-sm:min-h-11 overflow-hidden rounded-[18px] border border-edge bg-sheet px-4 py-1.5 placeholder:text-ink-2 max-sm:py-2.5 ${open ? 'max-h-40' : 'max-h-9 max-sm:max-h-11'}`}
          />
        </ListField>
        <Command.List
          hidden={!open}
          onMouseDown={(event) => event.preventDefault()}
          className="max-h-[60vh] overflow-y-auto rounded-sm border border-edge bg-sheet p-1.5 shadow-lg"
        >
          {sought && (
            <Command.Item value="place" onSelect={() => go(sought.address)} className={ITEM}>
              <span className="font-medium">Find one to book</span>
              <span className="text-ink-2">{text.trim()}</span>
            </Command.Item>
          )}
          {sentence && (
            <>
              {!sought && <SentenceChips sentence={sentence} />}
              <Command.Item value="sentence" onSelect={() => void plan(true)} className={ITEM}>
                <span className="font-medium">Plan this</span>
                <span className="text-ink-2">see when it can be</span>
              </Command.Item>
            </>
          )}
          {found.map((one) => (
            <Command.Item
              key={`${one.kind}${one.id}`}
              value={valueOf(one)}
              onSelect={() => go(addressOf(one))}
              className={ITEM}
            >
              <span className="font-medium">{one.name}</span>
              <span className="text-ink-2">
                {one.kind === 'resource' ? one.detail : `plan with, ${one.detail}`}
              </span>
            </Command.Item>
          ))}
          {views.map(([name, address]) => (
            <Command.Item
              key={address}
              value={`go ${name}`}
              onSelect={() => go(address)}
              className={ITEM}
            >
              <span className="font-medium">{name}</span>
              <span className="text-ink-2">go</span>
            </Command.Item>
          ))}
          {!sentence && !sought && found.length + views.length === 0 && (
            <p className="px-3 py-2 text-ink-2">Nobody and nothing begins with “{text}”.</p>
          )}
        </Command.List>
      </div>
    </Command>
  );
}
