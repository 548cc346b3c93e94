import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { Vocabulary } from '../../contract/search.ts';
import type { PlaceSentence } from '../../core/booking/sentence.ts';
import { addressKey } from '../../core/mailAddress.ts';
import type { Command } from '../../core/sentence/command.ts';
import type { Chip, Reader } from '../../core/sentence/sentence.ts';
import { dayOrderOf } from '../../core/time/dayOrder.ts';
import { wallTimeAt } from '../../core/time/wall.ts';
import { VOCABULARY } from '../find/index.ts';
import { callApi, useMe, useNow } from '../client/index.ts';

export interface TypedSentence {
  chips: Chip[];
  /** Leaves out what was misunderstood. */
  drop: (at: number) => void;
  /** Takes the next of those that a name, a day or a time could mean. */
  next: (at: number) => void;
}

/** What is typed, as far as it says more than a name. */
export type Understood =
  | { kind: 'place'; place: PlaceSentence }
  | { kind: 'command'; command: Command }
  | { kind: 'meeting'; chips: Chip[] };

/** Chips that make a plan and not only a search. */
const TELLING: Chip['kind'][] = [
  'person',
  'team',
  'address',
  'resource',
  'day',
  'days',
  'time',
  'between',
  'weekly',
  'repeats',
];

/** Whether what is typed can be a sentence. */
export const isWordy = (text: string): boolean => text.trim().split(/\s+/).length >= 2;

const isSentence = (chips: readonly Chip[]): boolean =>
  chips.length >= 2 && chips.some((chip) => TELLING.includes(chip.kind));

/** What a text says: what is looked for, what is to be done, or a meeting; null where it is a name or nothing. */
async function understood(
  text: string,
  names: Vocabulary,
  reader: Reader,
  me: number,
): Promise<Understood | null> {
  // What reads sentences is loaded with the first one.
  const [{ readPlaceSentence }, { readCommand }, { readSentence }] = await Promise.all([
    import('../../core/booking/sentence.ts'),
    import('../../core/sentence/command.ts'),
    import('../../core/sentence/sentence.ts'),
  ]);
  const place = readPlaceSentence(text, { ...names, me }, reader);
  if (place) return { kind: 'place', place };
  const command = readCommand(text, names, reader);
  if (command) return { kind: 'command', command };
  const chips = await withOwners(readSentence(text, names, reader));
  return isSentence(chips) ? { kind: 'meeting', chips } : null;
}

/** A colleague's address is that colleague. */
async function withOwners(chips: Chip[]): Promise<Chip[]> {
  const emails = chips.flatMap((chip) => (chip.kind === 'address' ? [chip.email] : []));
  if (emails.length === 0) return chips;
  const { people } = await callApi('POST /api/line-ups/addresses', { body: { emails } });
  const owners = new Map(people.map((one) => [addressKey(one.email), one]));
  return chips.map((chip): Chip => {
    const owner = chip.kind === 'address' && owners.get(addressKey(chip.email));
    if (!owner) return chip;
    const { words, optional } = chip;
    return { kind: 'person', words, id: owner.id, name: owner.name, optional, others: [] };
  });
}

/** What is typed read as a sentence, with corrections. */
export function useSentence(text: string): {
  /** What was made of it; null where it is none. */
  read: Understood | null;
  /** Whether it is not known yet what it is. */
  isReading: boolean;
  /** A meeting's chips, and ways to correct them. */
  sentence: TypedSentence | null;
  names: Vocabulary | null;
  /** Has all of what stands there understood, however fast it was typed. */
  understand: () => Promise<{ read: Understood | null; names: Vocabulary }>;
} {
  const me = useMe();
  const now = useNow();
  const client = useQueryClient();
  const wordy = isWordy(text);
  const vocabulary = useQuery({ ...VOCABULARY, enabled: wordy });
  const [known, setKnown] = useState<{ text: string; read: Understood | null } | null>(null);
  const names = vocabulary.data ?? null;
  const minute = wallTimeAt(now, me.zone).slice(0, 16);
  useEffect(() => {
    if (!wordy || !names) return;
    let current = true;
    void understood(text, names, readerAt(minute), me.id).then(
      // What was corrected stays so, as long as nothing more was typed.
      (read) => current && setKnown((last) => (last?.text === text ? last : { text, read })),
    );
    return () => {
      current = false;
    };
  }, [text, wordy, names, minute, me.id]);
  const read = wordy && known?.text === text ? known.read : null;
  const understand = async () => {
    const all = await client.fetchQuery(VOCABULARY);
    if (known?.text === text) return { read: known.read, names: all };
    const reader = readerAt(wallTimeAt(now, me.zone));
    return { read: await understood(text, all, reader, me.id), names: all };
  };
  const change = (chips: Chip[]) => setKnown({ text, read: { kind: 'meeting', chips } });
  const chips = read?.kind === 'meeting' ? read.chips : null;
  return {
    read,
    isReading: wordy && known?.text !== text && !vocabulary.isError,
    sentence: chips && {
      chips,
      drop: (at) => change(chips.filter((_, k) => k !== at)),
      next: (at) => change(chips.map((chip, k) => (k === at ? nextMeaning(chip) : chip))),
    },
    names,
    understand,
  };
}

/** Who reads a sentence at a wall time. */
const readerAt = (wall: string): Reader => ({
  today: wall.slice(0, 10),
  minute: Number(wall.slice(11, 13)) * 60 + Number(wall.slice(14, 16)),
  order: dayOrderOf(navigator.language),
});

/** What a chip means next: another of that name, the other half of the day, the other order of a date. */
function nextMeaning(chip: Chip): Chip {
  if (chip.kind === 'day' && chip.other) return { ...chip, date: chip.other, other: chip.date };
  if (chip.kind === 'time' && chip.other !== null)
    return { ...chip, minute: chip.other, other: chip.minute };
  if (chip.kind !== 'person' && chip.kind !== 'resource' && chip.kind !== 'except') return chip;
  const [best, ...rest] = chip.others;
  if (!best) return chip;
  return {
    ...chip,
    id: best.id,
    name: best.name,
    others: [...rest, { id: chip.id, name: chip.name }],
  };
}
