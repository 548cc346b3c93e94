import { Minus, Plus } from 'lucide-react';
import { useId, useState } from 'react';
import { IconButton, TextInput } from './controls.tsx';

/**
 * A whole number, typed or counted up and down. What is none, or lies outside its bounds, is said to be
 * so where it stands, and the number before it counts.
 */
export function AmountField({
  label,
  value,
  least,
  most,
  onChange,
}: {
  label: string;
  value: number;
  least: number;
  most: number;
  onChange: (value: number) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  const typed = Number(text ?? value);
  const fits = text?.trim() !== '' && Number.isInteger(typed) && typed >= least && typed <= most;
  const remark = useId();
  const step = (by: number) => {
    setText(null);
    onChange(Math.min(most, Math.max(least, value + by)));
  };
  return (
    <span className="inline-flex items-center gap-0.5">
      <IconButton small label="One less" disabled={value <= least} onClick={() => step(-1)}>
        <Minus size={14} aria-hidden="true" />
      </IconButton>
      <TextInput
        role="spinbutton"
        inputMode="numeric"
        autoComplete="off"
        aria-label={label}
        aria-valuenow={value}
        aria-valuemin={least}
        aria-valuemax={most}
        aria-invalid={!fits}
        aria-describedby={fits ? undefined : remark}
        className="w-14 text-center"
        value={text ?? String(value)}
        onFocus={(event) => event.target.select()}
        onChange={(event) => {
          setText(event.target.value);
          const next = Number(event.target.value);
          if (event.target.value.trim() && Number.isInteger(next) && next >= least && next <= most)
            onChange(next);
        }}
        onBlur={() => fits && setText(null)}
        onKeyDown={(event) => {
          if (event.key !== 'ArrowUp' && event.key !== 'ArrowDown') return;
          event.preventDefault();
          step(event.key === 'ArrowUp' ? 1 : -1);
        }}
      />
      <IconButton small label="One more" disabled={value >= most} onClick={() => step(1)}>
        <Plus size={14} aria-hidden="true" />
      </IconButton>
      {!fits && (
        <span id={remark} role="alert" className="text-xs font-semibold text-alpenglow">
          a whole number from {least} to {most}; {value} counts
        </span>
      )}
    </span>
  );
}
