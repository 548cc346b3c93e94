import { forWhom, useMe } from '../client/index.ts';
import { Select } from '../design/Select.tsx';

/** In whose name something is made, where I act for others or coordinate their team; nothing where I do for nobody. */
export function WhoseField({
  value,
  onChange,
}: {
  /** Null is me. */
  value: number | null;
  onChange: (personId: number | null) => void;
}) {
  const me = useMe();
  const others = forWhom(me);
  if (others.length === 0) return null;
  return (
    <span className="inline-flex items-baseline gap-1.5">
      <span className="text-ink-2">in the name of</span>
      <Select<number | null>
        look="word"
        question="In whose name"
        value={value}
        onChange={onChange}
        options={[
          { value: null, words: 'myself' },
          ...others.map(({ id, name }) => ({ value: id, words: name })),
        ]}
      />
    </span>
  );
}
