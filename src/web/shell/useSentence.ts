import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { ResourceKind } from '../../contract/places.ts';
import type { Vocabulary } from '../../contract/search.ts';
import type { Chip } from '../../core/planner/sentence.ts';
import { dateAt } from '../../core/time/wall.ts';
import { sentenceAddress } from '../lineUp/index.ts';
import { answerTo, useMe, useNow } from '../client/index.ts';

export interface TypedSentence {
  chips: Chip[];
  /** Leaves out what was misunderstood. */
  drop: (at: number) => void;
  /** Takes the next of those that a name could mean. */
  next: (at: number) => void;
}

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
];

/** Where a sentence that begins with a kind of place leads: "desk with monitor on Thursday". */
export interface PlaceSought {
  address: string;
  kind: ResourceKind;
}

async function placeSought(
  text: string,
  { sites }: Vocabulary,
  today: string,
): Promise<PlaceSought | null> {
  const { readPlaceSentence } = await import('../../core/booking/sentence.ts');
  const read = readPlaceSentence(text, sites, today);
  if (!read) return null;
  const { kind, date, from, to, minutes, seats, siteId, text: words } = read;
  const isExact = minutes !== null && from !== null && to !== null && to - from === minutes;
  const query = new URLSearchParams({
    kind,
    ...(date && { date }),
    ...(from !== null && to !== null && { from: String(from), to: String(to) }),
    ...(isExact ? { minutes: 'all' } : minutes !== null && { minutes: String(minutes) }),
    ...(seats > 1 && { seats: String(seats) }),
    ...(siteId !== null && { site: String(siteId) }),
    ...(words && { q: words }),
  });
  return { address: `/places/find?${query.toString()}`, kind };
}

/** Whether what is typed can be a sentence. */
export const isWordy = (text: string): boolean => text.trim().split(/\s+/).length >= 2;

const VOCABULARY = {
  ...answerTo('GET /api/search/names'),
  staleTime: 300_000,
};

/**
 * What is typed read as a sentence, with corrections; null where it is none.
 * @returns besides, a way to have all of what stands there understood, however fast it was typed: the
 *   address of its plan, or null where it is no sentence; and the place it looks for, if it does
 */
export function useSentence(
  text: string,
): [TypedSentence | null, (asMeeting?: boolean) => Promise<string | null>, PlaceSought | null] {
  const me = useMe();
  const now = useNow();
  const client = useQueryClient();
  const wordy = isWordy(text);
  const vocabulary = useQuery({ ...VOCABULARY, enabled: wordy });
  const [read, setRead] = useState<{ text: string; chips: Chip[] } | null>(null);
  const [sought, setSought] = useState<PlaceSought | null>(null);
  useEffect(() => {
    const names = vocabulary.data;
    if (!wordy || !names) {
      setSought(null);
      return setRead(null);
    }
    let current = true;
    void placeSought(text, names, dateAt(now, me.zone)).then(
      (found) => current && setSought(found),
    );
    // What reads sentences is loaded with the first one.
    void import('../../core/planner/sentence.ts').then(({ readSentence }) => {
      if (current) setRead({ text, chips: readSentence(text, names, dateAt(now, me.zone)) });
    });
    return () => {
      current = false;
    };
  }, [text, wordy, vocabulary.data, now, me.zone]);
  const addressOf = (chips: Chip[], { sites }: Vocabulary) =>
    sentenceAddress(
      chips,
      sites.map((site) => site.id),
      now,
      me.zone,
    );
  const understand = async (asMeeting = false) => {
    const names = await client.fetchQuery(VOCABULARY);
    const place = asMeeting ? null : await placeSought(text, names, dateAt(now, me.zone));
    if (place) return place.address;
    // What was corrected stays so, as long as nothing more was typed.
    if (read?.text === text) return isSentence(read.chips) ? addressOf(read.chips, names) : null;
    const { readSentence } = await import('../../core/planner/sentence.ts');
    const chips = readSentence(text, names, dateAt(now, me.zone));
    return isSentence(chips) ? addressOf(chips, names) : null;
  };
  if (!read || !vocabulary.data || !isSentence(read.chips)) return [null, understand, sought];
  const change = (chips: Chip[]) => setRead({ ...read, chips });
  const sentence = {
    chips: read.chips,
    drop: (at: number) => change(read.chips.filter((_, k) => k !== at)),
    next: (at: number) =>
      change(read.chips.map((chip, k) => (k === at ? nextMeaning(chip) : chip))),
  };
  return [sentence, understand, sought];
}

const isSentence = (chips: Chip[]): boolean =>
  chips.length >= 2 && chips.some((chip) => TELLING.includes(chip.kind));

function nextMeaning(chip: Chip): Chip {
  if (chip.kind !== 'person' && chip.kind !== 'resource') return chip;
  const [best, ...rest] = chip.others;
  if (!best) return chip;
  return {
    ...chip,
    id: best.id,
    name: best.name,
    others: [...rest, { id: chip.id, name: chip.name }],
  };
}
