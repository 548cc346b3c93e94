import { useQuery } from '@tanstack/react-query';
import type { Found } from '../../contract/search.ts';
import { answerTo, useMe } from '../client/index.ts';
import { FindField } from '../find/index.ts';
import { isMailAddress } from '../../core/mailAddress.ts';
import { Doubts } from './Doubts.tsx';
import { isList, useNameList } from './useNameList.ts';
import { outsider, recalled, required, type LineUpEntry } from './address.ts';

export const useLineUps = () =>
  useQuery({
    ...answerTo('GET /api/line-ups'),
    staleTime: 60_000,
  });

/**
 * Adds to the line-up: by a part of a name, a whole team, an address, a list of names and addresses,
 * people met lately, or a line-up that is remembered.
 */
export function AddMember({
  onAdd,
  there,
  label = 'Add a person, team or place',
  kinds,
  onWords,
}: {
  /** `name` is given where it is somebody by themselves. */
  onAdd: (fresh: readonly LineUpEntry[], name?: string) => void;
  /** Ids that are in the line-up already, mine among them. */
  there: ReadonlySet<number>;
  label?: string;
  /** What may be added; everything unless said. */
  kinds?: readonly Found['kind'][];
  /** Takes what is typed as where it is, in words; left out where that is not asked. */
  onWords?: (words: string) => void;
}) {
  const me = useMe();
  const lineUps = useLineUps();
  const addFound = (one: Found) =>
    onAdd(
      (one.kind === 'team' ? one.memberIds : [one.id]).map(required),
      one.kind === 'team' ? undefined : one.name,
    );
  const { read, doubts, settle, said } = useNameList(
    (fresh) => onAdd(fresh.filter((one) => one.email || !there.has(one.id))),
    kinds,
  );
  const ownDomain = me.email.slice(me.email.lastIndexOf('@')).toLowerCase();
  const remembered = lineUps.data?.lineUps ?? [];
  const met = (lineUps.data?.met ?? []).filter((one) => !there.has(one.id));
  return (
    <div>
      <FindField
        label={label}
        {...(kinds && { kinds })}
        hint="A part of a name, an address, or a list of them"
        onFound={addFound}
        onText={(typed) => {
          if (!isMailAddress(typed)) {
            if (!onWords) return null;
            const detail = 'where it is, in words';
            return { detail, isLast: true, pick: () => onWords(typed) };
          }
          const isOwn = typed.toLowerCase().endsWith(ownDomain);
          return {
            detail: isOwn ? 'nobody here has it; write to it all the same' : 'outside, by mail',
            pick: () => onAdd([outsider(typed)], typed),
          };
        }}
        onList={{ is: isList, read }}
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
              pick: () => onAdd([required(one.id)], one.name),
            })),
          },
        ].filter((one) => one.entries.length > 0)}
      />
      <Doubts doubts={doubts} onSettle={settle} />
      <p role="status" className="sr-only">
        {said}
      </p>
    </div>
  );
}
