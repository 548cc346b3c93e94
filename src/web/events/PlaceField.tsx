import { useId } from 'react';
import { FindField } from '../find/index.ts';

/**
 * Where it is: a place of Marmot's, which is then reserved, or plain text, and it says which of the
 * two it is.
 */
export function PlaceField({
  value,
  onChange,
  onTake,
  reserved,
}: {
  value: string;
  onChange: (text: string) => void;
  /** Reserves a place of Marmot's; left out where reservations are not changed here. */
  onTake?: (resourceId: number) => void;
  /** The names of the places that are reserved with it. */
  reserved: readonly string[];
}) {
  const id = useId();
  const words = value.trim()
    ? 'Plain text: nothing is reserved by it.'
    : reserved.length > 0
      ? `Reserved with it: ${reserved.join(', ')}.`
      : null;
  return (
    <div>
      <p id={id} className="mb-1 font-semibold">
        Place
      </p>
      <FindField
        label="Place"
        placeholder={onTake ? 'A room to reserve, or any words' : 'Any words'}
        kinds={onTake ? ['resource'] : []}
        text={{ value, onChange: (text) => onChange(text.slice(0, 200)) }}
        onFound={(one) => {
          onChange('');
          onTake?.(one.id);
        }}
      />
      {words && <p className="mt-1 text-xs text-ink-2">{words}</p>}
    </div>
  );
}
