import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { Vocabulary } from '../../contract/search.ts';
import type { Chip } from '../../core/planner/sentence.ts';
import { dateAt } from '../../core/time/wall.ts';
import { sentenceAddress } from '../plan/index.ts';
import { readApi } from './api.ts';
import { useMe, useNow } from './session.ts';

export interface Sentence {
  chips: Chip[];
  /** Where the plan of these chips is. */
  address: string;
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
  'weekly',
];

/** What is typed read as a sentence, with corrections; null where it is none. */
export function useSentence(text: string): Sentence | null {
  const me = useMe();
  const now = useNow();
  const wordy = text.trim().split(/\s+/).length >= 2;
  const vocabulary = useQuery({
    queryKey: ['names'],
    queryFn: () => readApi<Vocabulary>('/search/names'),
    enabled: wordy,
    staleTime: 300_000,
  });
  const [read, setRead] = useState<{ text: string; chips: Chip[] } | null>(null);
  useEffect(() => {
    const names = vocabulary.data;
    if (!wordy || !names) return setRead(null);
    let current = true;
    // What reads sentences is loaded with the first one.
    void import('../../core/planner/sentence.ts').then(({ readSentence }) => {
      if (current) setRead({ text, chips: readSentence(text, names, dateAt(now, me.zone)) });
    });
    return () => {
      current = false;
    };
  }, [text, wordy, vocabulary.data, now, me.zone]);
  const telling = read?.chips.filter((chip) => TELLING.includes(chip.kind)).length ?? 0;
  if (!read || !vocabulary.data || telling === 0 || read.chips.length < 2) return null;
  const change = (chips: Chip[]) => setRead({ ...read, chips });
  const sites = vocabulary.data.sites.map((site) => site.id);
  return {
    chips: read.chips,
    address: sentenceAddress(read.chips, sites, now, me.zone),
    drop: (at) => change(read.chips.filter((_, k) => k !== at)),
    next: (at) => change(read.chips.map((chip, k) => (k === at ? nextMeaning(chip) : chip))),
  };
}

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
