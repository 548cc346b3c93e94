import { useRef, useState } from 'react';
import { Button, TextInput } from '../design/controls.tsx';

/** A floor as it is to be; one without a number is new. */
export interface Floor {
  id?: number;
  name: string;
}

/** The floors of a site in their order: named, moved up and down, added; one where places stand is kept. */
export function FloorsField({
  value,
  onChange,
  error,
}: {
  /** From the lowest to the highest. */
  value: readonly Floor[];
  onChange: (floors: Floor[]) => void;
  error: string | undefined;
}) {
  const [typed, setTyped] = useState('');
  const put = (k: number, floor: Floor) => onChange(value.map((one, j) => (j === k ? floor : one)));
  const swap = (k: number, j: number) => {
    const next = [...value];
    [next[k], next[j]] = [next[j]!, next[k]!];
    onChange(next);
  };
  const field = useRef<HTMLInputElement>(null);
  const add = () => {
    const name = typed.trim();
    if (!name || value.some((one) => one.name.toLowerCase() === name.toLowerCase())) return;
    onChange([...value, { name }]);
    setTyped('');
  };
  // The highest stands on top, as in a house.
  const shown = value.map((floor, k) => ({ floor, k })).reverse();
  return (
    <fieldset className="grid gap-2">
      <legend className="mb-1 font-semibold">Floors</legend>
      <div className="flex gap-2">
        <TextInput
          ref={field}
          aria-label="A floor more, on top"
          placeholder="3, or Loft"
          maxLength={20}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== 'Enter') return;
            event.preventDefault();
            add();
          }}
        />
        <Button disabled={!typed.trim()} onClick={add}>
          Add
        </Button>
      </div>
      {value.length === 0 && (
        <p className="text-ink-2">None yet. A place that names one adds it, too.</p>
      )}
      <ul className="grid gap-1">
        {shown.map(({ floor, k }) => (
          <li key={floor.id ?? `new ${k}`} className="flex items-center gap-1">
            <TextInput
              aria-label={`Floor ${k + 1} from below`}
              className="max-w-32"
              maxLength={20}
              value={floor.name}
              onChange={(event) => put(k, { ...floor, name: event.target.value })}
            />
            <Button
              look="quiet"
              aria-label={`Floor ${floor.name} up`}
              disabled={k === value.length - 1}
              onClick={() => swap(k, k + 1)}
            >
              Up
            </Button>
            <Button
              look="quiet"
              aria-label={`Floor ${floor.name} down`}
              disabled={k === 0}
              onClick={() => swap(k, k - 1)}
            >
              Down
            </Button>
            <Button
              look="quiet"
              aria-label={`No floor ${floor.name}`}
              onClick={() => {
                onChange(value.filter((_, j) => j !== k));
                field.current?.focus();
              }}
            >
              Remove
            </Button>
          </li>
        ))}
      </ul>
      {error && (
        <p role="alert" className="text-sm font-semibold text-glow">
          {error}
        </p>
      )}
    </fieldset>
  );
}
