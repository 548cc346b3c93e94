import { Select } from '../design/Select.tsx';
import { MARK_CLASSES, markStyle } from '../grid/index.ts';
import { useCategories } from '../preferences/index.ts';

/** My own category of an event; not shown to somebody who has made none. */
export function CategoryField({
  value,
  onChange,
}: {
  value: number | null;
  onChange: (id: number | null) => void;
}) {
  const categories = useCategories();
  const chosen = categories.find((one) => one.id === value);
  if (categories.length === 0) return null;
  return (
    <span className="inline-flex items-center gap-1">
      {chosen && (
        <i
          className={`h-5 w-2 shrink-0 rounded-sm ${MARK_CLASSES[chosen.pattern]}`}
          style={markStyle(chosen.colour)}
        />
      )}
      <Select
        look="chip"
        question="Category"
        value={value}
        onChange={onChange}
        options={[
          { value: null, words: 'none' },
          ...categories.map((one) => ({ value: one.id, words: one.name })),
        ]}
      />
    </span>
  );
}
