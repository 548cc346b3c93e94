import { useMe } from '../client/index.ts';
import { Select } from '../design/Select.tsx';

/** In whose name something is made, where I act for others; nothing where I act for nobody. */
export function WhoseField({
  value,
  onChange,
}: {
  /** Null is me. */
  value: number | null;
  onChange: (personId: number | null) => void;
}) {
  const me = useMe();
  if (me.actsFor.length === 0) return null;
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
          ...me.actsFor.map(({ id, name }) => ({ value: id, words: name })),
        ]}
      />
    </span>
  );
}
