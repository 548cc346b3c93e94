import { useQuery } from '@tanstack/react-query';
import type { Found } from '../../contract/search.ts';
import { callApi, answerTo, errorText } from '../client/index.ts';
import { tellUser } from '../design/notices.ts';
import { FindField } from '../find/index.ts';
import { isMailAddress } from '../../core/mailAddress.ts';
import { outsider, recalled, required, type LineUpEntry } from './address.ts';

export const useLineUps = () =>
  useQuery({
    ...answerTo('GET /api/line-ups'),
    staleTime: 60_000,
  });

/**
 * Adds to the line-up: by a part of a name, a whole team, an address, a pasted list of addresses,
 * people met lately, or a line-up that is remembered.
 */
export function AddMember({
  onAdd,
  there,
}: {
  onAdd: (fresh: readonly LineUpEntry[]) => void;
  /** Ids that are in the line-up already, mine among them. */
  there: ReadonlySet<number>;
}) {
  const lineUps = useLineUps();
  const addFound = (one: Found) =>
    onAdd((one.kind === 'team' ? one.memberIds : [one.id]).map(required));
  const addPasted = (text: string) =>
    callApi('POST /api/line-ups/addresses', { body: { text } }).then(
      ({ people, outside, unreadable }) => {
        onAdd([
          ...people.filter((one) => !there.has(one.id)).map((one) => required(one.id)),
          ...outside.map((one) => outsider(one.email)),
        ]);
        if (unreadable.length > 0)
          tellUser(`Not an address, and left out: ${unreadable.slice(0, 5).join('; ')}`);
      },
      (error: unknown) => tellUser(errorText(error)),
    );
  const remembered = lineUps.data?.lineUps ?? [];
  const met = (lineUps.data?.met ?? []).filter((one) => !there.has(one.id));
  return (
    <FindField
      label="Add a person, team or place"
      hint="A part of a name, an address, or a pasted list of addresses"
      onFound={addFound}
      onText={(typed) =>
        isMailAddress(typed)
          ? { detail: 'outside, by mail', pick: () => onAdd([outsider(typed)]) }
          : null
      }
      onPaste={(pasted) => {
        const isList = (pasted.match(/@/g) ?? []).length > 1;
        if (isList) void addPasted(pasted);
        return isList;
      }}
      suggestions={[
        {
          heading: 'Line-ups you remember',
          entries: remembered.map((one) => ({
            key: `remembered ${one.id}`,
            name: one.name,
            detail: `${one.members.length} in it`,
            pick: () => onAdd(one.members.map(recalled)),
          })),
        },
        {
          heading: 'Met lately',
          entries: met.map((one) => ({
            key: `met ${one.id}`,
            name: one.name,
            detail: one.detail,
            pick: () => onAdd([required(one.id)]),
          })),
        },
      ].filter((one) => one.entries.length > 0)}
    />
  );
}
