import { useState } from 'react';
import { useMe } from '../app/index.ts';
import { Select } from '../design/Select.tsx';
import { FindField } from '../find/index.ts';

/** Somebody whose booking it is to be. */
export interface Holder {
  id: number;
  name: string;
}

/**
 * Whose a booking is to be, where that can be somebody else: those for whom I act, and for whoever looks
 * after places anybody.
 */
export function HolderField({
  value,
  onChange,
}: {
  /** Null is me. */
  value: Holder | null;
  onChange: (holder: Holder | null) => void;
}) {
  const me = useMe();
  const [isSought, setSought] = useState(false);
  const mayAnybody = me.role !== 'staff';
  if (me.actsFor.length === 0 && !mayAnybody) return null;
  const known = [...me.actsFor];
  if (value && !known.some((one) => one.id === value.id)) known.push(value);
  return (
    <div className="grid gap-1.5">
      <span className="flex flex-wrap items-baseline gap-1.5">
        <span className="font-semibold">For</span>
        <Select<number | null | 'other'>
          look="word"
          question="Whose booking it is"
          value={isSought ? 'other' : (value?.id ?? null)}
          onChange={(next) => {
            setSought(next === 'other');
            if (next !== 'other') onChange(known.find((one) => one.id === next) ?? null);
          }}
          options={[
            { value: null, words: 'myself' },
            ...known.map(({ id, name }) => ({ value: id, words: name })),
            ...(mayAnybody ? [{ value: 'other' as const, words: 'somebody else …' }] : []),
          ]}
        />
      </span>
      {isSought && (
        <FindField
          label="Whom it is for"
          kinds={['person']}
          inFlow
          autoFocus
          onFound={({ id, name }) => {
            setSought(false);
            onChange(id === me.id ? null : { id, name });
          }}
        />
      )}
    </div>
  );
}
