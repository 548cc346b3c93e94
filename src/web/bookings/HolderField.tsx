import { forWhom, may, useMe } from '../client/index.ts';
import { Select } from '../design/Select.tsx';
import { FindField } from '../find/index.ts';

/** Somebody whose booking it is to be; `sought` while it is to be somebody else's who is not found yet. */
export type Holder = { id: number; name: string } | 'sought';

/** In whose name it is booked, as a request says it. */
export const holderOf = (holder: Holder | null): { for?: number } =>
  holder && holder !== 'sought' ? { for: holder.id } : {};

/**
 * Whose a booking is to be, where that can be somebody else: those for whom I act, those whose team I coordinate,
 * and for whoever looks after the places anybody.
 */
export function HolderField({
  places,
  value,
  onChange,
}: {
  /** What is to be booked. */
  places: readonly number[];
  /** Null is me. */
  value: Holder | null;
  onChange: (holder: Holder | null) => void;
}) {
  const me = useMe();
  const mayAnybody = places.length > 0 && places.every((id) => may(me, 'book-for', id));
  const mine = forWhom(me);
  if (mine.length === 0 && !mayAnybody) return null;
  const known = [...mine];
  if (value && value !== 'sought' && !known.some((one) => one.id === value.id)) known.push(value);
  return (
    <div className="grid gap-1.5">
      <span className="flex flex-wrap items-baseline gap-1.5">
        <span className="font-semibold">For</span>
        <Select<number | null | 'sought'>
          look="word"
          question="Whose booking it is"
          value={value === 'sought' ? value : (value?.id ?? null)}
          onChange={(next) =>
            onChange(next === 'sought' ? next : (known.find((one) => one.id === next) ?? null))
          }
          options={[
            { value: null, words: 'myself' },
            ...known.map(({ id, name }) => ({ value: id, words: name })),
            ...(mayAnybody
              ? [{ value: 'sought' as const, words: 'somebody else …', leads: true as const }]
              : []),
          ]}
        />
      </span>
      {value === 'sought' && (
        <FindField
          label="Whom it is for"
          kinds={['person']}
          inFlow
          autoFocus
          onFound={({ id, name }) => onChange(id === me.id ? null : { id, name })}
        />
      )}
    </div>
  );
}
