import { keepPreviousData, queryOptions, useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { Found } from '../../contract/search.ts';
import { answerTo } from '../client/index.ts';

const search = (q: string) =>
  queryOptions({
    ...answerTo('GET /api/search', { query: { q } }),
  });

interface Finding {
  found: Found[];
  searching: boolean;
  /** Whether what is found is not yet for what is typed, but for less of it. */
  isBehind: boolean;
  /** What is found for what is typed, once it is there. */
  whenFound: () => Promise<Found[]>;
}

/** People, teams and places whose names begin with what is typed. */
export function useFound(text: string): Finding {
  const q = text.trim();
  const client = useQueryClient();
  const query = useQuery({
    ...search(q),
    enabled: q.length > 0,
    placeholderData: keepPreviousData,
  });
  return {
    found: q ? (query.data?.found ?? []) : [],
    searching: query.isFetching,
    isBehind: q !== '' && (query.isPlaceholderData || query.isLoading),
    whenFound: async () => (await client.fetchQuery(search(q))).found,
  };
}

/** The name by which a list knows what was found. */
export const valueOf = (found: Pick<Found, 'kind' | 'id'>): string => `${found.kind} ${found.id}`;

/** The value of no entry: without one the library takes the first for chosen. */
const NOTHING = 'nothing is chosen';

/**
 * Which entry of a list Enter takes: the first that is known, until the arrows or the pointer choose another.
 * What arrives while somebody types takes no place from it.
 * @param text what is typed, by which all of it begins anew
 * @param entries those of the list
 * @param first what is highlighted by itself; null while it is not known yet, and where nothing is to be
 */
export function useHighlight(
  text: string,
  entries: readonly string[],
  first: string | null,
): {
  value: string;
  /** Whether somebody chose it. */
  isByHand: boolean;
  /** For the list itself. */
  props: {
    value: string;
    onValueChange: (value: string) => void;
    onKeyDownCapture: (event: KeyboardEvent) => void;
    onPointerMoveCapture: (event: PointerEvent) => void;
  };
} {
  const [own, setOwn] = useState({ text, value: '', isByHand: false });
  // The library chooses by itself, too, whenever its entries change: that counts for nothing.
  const hand = useRef(false);
  const [undone, setUndone] = useState(0);
  const moves = () => {
    hand.current = true;
    setTimeout(() => (hand.current = false));
  };
  const held = own.text === text && entries.includes(own.value) ? own : null;
  if (!held && first !== null && entries.includes(first))
    setOwn({ text, value: first, isByHand: false });
  const value = held?.value ?? first ?? '';
  return {
    value,
    isByHand: held?.isByHand ?? false,
    props: {
      // Said anew each time the library has chosen something where nothing is to be.
      value: value || `${NOTHING} ${undone}`,
      onValueChange: (next) => {
        if (hand.current) setOwn({ text, value: next, isByHand: true });
        else if (!value && !next.startsWith(NOTHING)) setUndone((times) => times + 1);
      },
      onKeyDownCapture: (event) => {
        const { key, ctrlKey } = event;
        if (/^(Arrow(Up|Down)|Home|End)$/.test(key) || (ctrlKey && /^[npjk]$/.test(key))) moves();
      },
      onPointerMoveCapture: ({ target }) => {
        if ((target as Element).closest('[cmdk-item]')) moves();
      },
    },
  };
}
