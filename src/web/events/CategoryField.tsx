import { Link } from 'react-router';
import { Field } from '../design/controls.tsx';
import { Select } from '../design/Select.tsx';
import { MARK_CLASSES, markStyle } from '../grid/index.ts';
import { useCategories } from '../preferences/index.ts';

/** My own category of an event. */
export function CategoryField({
  value,
  onChange,
}: {
  value: number | null;
  onChange: (id: number | null) => void;
}) {
  const categories = useCategories();
  const chosen = categories.find((one) => one.id === value);
  return (
    <div className="flex items-end gap-2">
      {chosen && (
        <i
          className={`mb-1 h-7 w-3 shrink-0 rounded-sm ${MARK_CLASSES[chosen.pattern]}`}
          style={markStyle(chosen.colour)}
        />
      )}
      <Field label="Category" className="flex-1">
        <Select
          value={value}
          onChange={onChange}
          options={[
            { value: null, words: 'none' },
            ...categories.map((one) => ({ value: one.id, words: one.name })),
          ]}
        />
      </Field>
      {categories.length === 0 && (
        <Link className="mb-1.5 text-gentian underline" to="/preferences#categories">
          Make some
        </Link>
      )}
    </div>
  );
}
