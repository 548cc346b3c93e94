import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { addressKey } from '../../core/mailAddress.ts';
import type { Listed, Meant } from '../../core/sentence/nameList.ts';
import { callApi, UserError, useMe } from '../client/index.ts';
import { VOCABULARY } from '../find/index.ts';
import { outsider, required, type LineUpEntry } from './address.ts';

/** So long the reading of a list may keep the page from being drawn. */
const LONGEST_HELD_MS = 12;

/** Entries of a list that somebody has to look at. */
export type InDoubt = Extract<Listed, { is: 'doubtful' | 'nobodys' | 'unknown' }>;

/** Whether a text names more than one, so that it is a list and no name. */
export const isList = (text: string): boolean =>
  text.split(/[\n\r;,]+/).filter((part) => part.trim().length > 1).length > 1;

/** Whom what is meant brings along. */
export const entriesOf = (meant: Meant, isOptional: boolean): LineUpEntry[] =>
  (meant.kind === 'team' ? meant.memberIds : [meant.id]).map((id) => ({
    ...required(id),
    role: isOptional ? 'optional' : 'required',
  }));

/**
 * Reads lists of names and addresses: whoever is named without doubt is added at once, and the others are
 * kept until somebody has said who is meant.
 */
export function useNameList(
  onAdd: (fresh: readonly LineUpEntry[]) => void,
  kinds: readonly Meant['kind'][] = ['person', 'team', 'resource'],
) {
  const me = useMe();
  const client = useQueryClient();
  const [doubts, setDoubts] = useState<readonly InDoubt[]>([]);
  const [said, setSaid] = useState('');

  /** @throws where the names cannot be read; nothing is added then */
  const read = async (text: string) => {
    setSaid('Reading …');
    const { addressesIn, isTooLong, listReader, MOST_LISTED } =
      await import('../../core/sentence/nameList.ts');
    if (isTooLong(text))
      throw new UserError(`A list may name ${MOST_LISTED} at once. Take it in parts.`);
    const emails = addressesIn(text).slice(0, MOST_LISTED);
    const [names, owners] = await Promise.all([
      client.fetchQuery(VOCABULARY),
      emails.length > 0
        ? callApi('POST /api/line-ups/addresses', { body: { emails } })
        : { people: [] },
    ]);
    const reader = listReader({
      ...names,
      owners: new Map(owners.people.map((one) => [addressKey(one.email), one])),
      ownDomain: addressKey(me.email.slice(me.email.lastIndexOf('@') + 1)),
    });
    const added: LineUpEntry[] = [];
    const doubtful: InDoubt[] = [];
    let since = performance.now();
    for (const one of reader.read(text)) {
      if (one.is === 'meant' && kinds.includes(one.meant.kind))
        added.push(...entriesOf(one.meant, one.isOptional));
      else if (one.is === 'address')
        added.push(outsider(one.email, one.isOptional ? 'optional' : 'required'));
      else if (one.is === 'meant')
        doubtful.push({ text: one.text, isOptional: one.isOptional, is: 'unknown' });
      else doubtful.push(one);
      if (performance.now() - since < LONGEST_HELD_MS) continue;
      await new Promise((resolve) => setTimeout(resolve));
      since = performance.now();
    }
    onAdd(added);
    setDoubts((before) => [
      ...before,
      ...doubtful.filter((one) => !before.some((other) => other.text === one.text)),
    ]);
    const count = added.length === 1 ? '1 is added' : `${added.length} are added`;
    setSaid(
      doubtful.length === 0
        ? `${count}.`
        : `${count}; ${doubtful.length} to look at, below the field.`,
    );
  };
  const settle = (one: InDoubt, fresh: readonly LineUpEntry[] = []) => {
    if (fresh.length > 0) onAdd(fresh);
    setDoubts((before) => before.filter((other) => other !== one));
  };
  return {
    read: (text: string) =>
      read(text).finally(() => setSaid((now) => (now === 'Reading …' ? '' : now))),
    doubts,
    settle,
    said,
  };
}
