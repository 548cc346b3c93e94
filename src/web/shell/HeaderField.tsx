import { Command } from 'cmdk';
import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { planPath, required, sentenceAddress, type Hearing } from '../lineUp/index.ts';
import type { Found, Vocabulary } from '../../contract/search.ts';
import type { Chip } from '../../core/sentence/sentence.ts';
import { useMe, useNow, usePreferences } from '../client/index.ts';
import { ListField } from '../design/ListField.tsx';
import { useFound, useHighlight, valueOf } from '../find/index.ts';
import { FIELD_BOX, FIELD_LABEL, FIELD_LOOK, FIELD_PLACEHOLDER, type Begun } from './fieldLook.ts';
import { useMeant } from './useMeant.ts';
import { findAddress, whenOf } from './sayings.ts';
import { useFieldKeys } from './useFieldKeys.ts';
import { isWordy, useSentence, type Understood } from './useSentence.ts';

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

// What is said of sentences is loaded with the first one.
const SentenceChips = lazy(async () => ({
  default: (await import('./SentenceChips.tsx')).SentenceChips,
}));
const Saying = lazy(async () => ({ default: (await import('./Saying.tsx')).Saying }));
const CommandRows = lazy(async () => ({
  default: (await import('./CommandRows.tsx')).CommandRows,
}));

/** Where a sentence leads: an address, and what goes along to it. */
interface Way {
  address: string;
  state?: unknown;
}

/** Leads where a sentence does. */
function useWays() {
  const me = useMe();
  const now = useNow();
  const { defaultMinutes, defaultReminders } = usePreferences();
  const form = async (chips: readonly Chip[], hearing: Hearing): Promise<Way> => {
    const { sentenceDraft } = await import('./sentenceDraft.ts');
    const usual = { minutes: defaultMinutes, reminders: defaultReminders, me: me.id };
    return { address: '/events/new', state: sentenceDraft(chips, hearing, usual) };
  };
  return async (read: Understood, { sites }: Vocabulary): Promise<Way | null> => {
    const hearing = { siteIds: sites.map((site) => site.id), now, zone: me.zone };
    switch (read.kind) {
      case 'place':
        return { address: findAddress(read.place) };
      case 'meeting':
        // Plan looks through weeks; what repeats in other ways is set in the form.
        return read.chips.some(({ kind }) => kind === 'repeats')
          ? form(read.chips, hearing)
          : { address: sentenceAddress(read.chips, hearing) };
      case 'command': {
        if (read.command.verb !== 'book') return null;
        const { place, others, chips } = read.command;
        const { id, name } = place;
        const { date, time } = whenOf(chips);
        if (!date && !time) return { address: `/places?open=${id}` };
        return form([{ kind: 'resource', words: name, id, name, others }, ...chips], hearing);
      }
    }
  };
}

/** Gives the keys to the view, where what was asked for is shown. */
const toTheView = () => document.getElementById('view')?.focus({ preventScroll: true });

/**
 * The one field of the header: finds people, teams and places, goes to any view, and turns a sentence
 * into a plan, a search for a place, or what is to be done with something that is there.
 */
export function HeaderField({
  begun,
  onKeys,
  onGone,
}: {
  /** What was done in the field before all of it was there. */
  begun: Begun;
  onKeys: () => void;
  /** Where the field is opened for one use: it was used, or left. */
  onGone?: (() => void) | undefined;
}) {
  const [text, setText] = useState(begun.text);
  const [open, setOpen] = useState(begun.hasFocus);
  const input = useRef<HTMLTextAreaElement>(null);
  const navigate = useNavigate();
  const { found, isBehind, whenFound } = useFound(text);
  const { read, isReading, sentence, understand } = useSentence(text);
  const wayOf = useWays();
  const command = read?.kind === 'command' ? read.command : null;
  const meant = useMeant(command);
  const views = PLACES_TO_GO.filter(([name]) =>
    name.toLowerCase().includes(text.trim().toLowerCase()),
  );
  const said = read?.kind === 'place' || read?.kind === 'meeting' || command?.verb === 'book';
  const entries = [
    ...(said ? ['said'] : []),
    ...meant.map(({ value }) => value),
    ...found.map(valueOf),
    ...views.map(([name]) => `go ${name}`),
  ];
  // Nothing is highlighted while something else could still come before it.
  const isKnown = !isReading && !isBehind;
  const highlight = useHighlight(text.trim(), entries, isKnown ? (entries[0] ?? null) : null);

  useFieldKeys(input, onKeys);

  const go = ({ address, state }: Way) => {
    setText('');
    setOpen(false);
    toTheView();
    onGone?.();
    void navigate(address, { state });
  };
  const goTo = (address: string) => go({ address });
  /** Takes what stands there, and not what was understood or found of it a moment before. */
  const takeTyped = async () => {
    const isSame = () => input.current?.value === text;
    const heard = await (isWordy(text) ? understand().catch(() => null) : null);
    const way = heard?.read && (await wayOf(heard.read, heard.names).catch(() => null));
    if (!isSame() || heard?.read?.kind === 'command') return way ? go(way) : undefined;
    if (way) return go(way);
    const [first] = await whenFound().catch(() => []);
    if (!isSame()) return;
    if (first) goTo(addressOf(first));
    else if (views[0]) goTo(views[0][1]);
  };

  const isTaken = useRef(false);
  useEffect(() => {
    const field = input.current!;
    if (begun.hasFocus) {
      field.focus();
      field.setSelectionRange(field.value.length, field.value.length);
    }
    if (!begun.isEntered || isTaken.current) return;
    isTaken.current = true;
    void takeTyped();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once, of what was done before
  }, []);

  return (
    <Command
      shouldFilter={false}
      {...highlight.props}
      label={FIELD_LABEL}
      className={FIELD_BOX}
      onBlur={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget)) setOpen(false);
      }}
      onKeyDown={(event) => {
        if (event.key === 'Escape') {
          setOpen(false);
          toTheView();
          onGone?.();
        } else if (event.key === 'Enter' && event.target === input.current) {
          const isOwn = highlight.isByHand || (isKnown && highlight.value !== 'said');
          if (isOwn || !text.trim()) return;
          event.preventDefault();
          void takeTyped();
        }
      }}
    >
      {/* Lies over what is below, and the list below its last line. */}
      <div className="absolute inset-x-0 top-0 z-40 grid gap-1">
        <ListField isOpen={open} value={text} onChange={setText}>
          <textarea
            ref={input}
            rows={1}
            autoFocus={!!onGone || begun.hasFocus}
            onFocus={() => setOpen(true)}
            placeholder={FIELD_PLACEHOLDER}
            className={`${FIELD_LOOK} ${open ? 'max-h-40' : 'max-h-9 max-sm:max-h-11'}`}
          />
        </ListField>
        <Command.List
          hidden={!open}
          onMouseDown={(event) => event.preventDefault()}
          className="max-h-[60vh] overflow-y-auto rounded-sm border border-edge bg-sheet p-1.5 shadow-lg"
        >
          <Suspense>{sentence && <SentenceChips sentence={sentence} />}</Suspense>
          {said && (
            <Command.Item value="said" onSelect={() => void takeTyped()} className={ITEM}>
              <Suspense>
                <Saying read={read!} text={text} />
              </Suspense>
            </Command.Item>
          )}
          <Suspense>
            {command && <CommandRows command={command} meant={meant} onGo={goTo} />}
          </Suspense>
          {found.map((one) => (
            <Command.Item
              key={`${one.kind}${one.id}`}
              value={valueOf(one)}
              onSelect={() => goTo(addressOf(one))}
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
              onSelect={() => goTo(address)}
              className={ITEM}
            >
              <span className="font-medium">{name}</span>
              <span className="text-ink-2">go</span>
            </Command.Item>
          ))}
          {isKnown && entries.length === 0 && !command && (
            <p className="px-3 py-2 text-ink-2">Nobody and nothing begins with “{text}”.</p>
          )}
        </Command.List>
      </div>
    </Command>
  );
}
