import { useId, useState } from 'react';
import { readTypedLength } from '../../core/time/typedLength.ts';
import { formatLength } from '../../core/time/format.ts';
import { MINUTE } from '../../core/time/interval.ts';
import { TextInput } from '../design/controls.tsx';

const OF = { minutes: 1, days: 1440 };

/**
 * A length that is typed as people say it, or nothing: "90", "1 h 30", "2 days". What is none, or lies outside
 * its bounds, is said to be so where it stands, and its form is not saved meanwhile (`focusInvalid`).
 * @param unit what value, least and most count, and what a number without a word stands for
 */
export function LengthField({
  label,
  unit = 'minutes',
  least,
  most,
  value,
  isNeeded = false,
  onChange,
}: {
  label: string;
  unit?: 'minutes' | 'days';
  least: number;
  most: number;
  value: number | null;
  /** Whether it cannot be left empty. */
  isNeeded?: boolean;
  onChange: (value: number | null) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  const remark = useId();
  const words = (count: number) =>
    count === 0 && unit === 'days' ? 'the same day' : formatLength(count * OF[unit] * MINUTE);
  const read = (typed: string): number | null | 'wrong' => {
    if (typed.trim() === '') return isNeeded ? 'wrong' : null;
    const minutes = readTypedLength(typed, OF[unit]);
    const count = minutes === null ? Number.NaN : minutes / OF[unit];
    return Number.isInteger(count) && count >= least && count <= most ? count : 'wrong';
  };
  const isWrong = text !== null && read(text) === 'wrong';
  return (
    <label className="grid grid-cols-[1fr_auto] items-center gap-x-2">
      <span>{label}</span>
      <TextInput
        className="w-28 text-right"
        autoComplete="off"
        value={text ?? (value === null ? '' : words(value))}
        aria-invalid={isWrong}
        aria-describedby={isWrong ? remark : undefined}
        onFocus={(event) => event.target.select()}
        onChange={({ target }) => {
          setText(target.value);
          const next = read(target.value);
          if (next !== 'wrong') onChange(next);
        }}
        onBlur={() => !isWrong && setText(null)}
      />
      {isWrong && (
        <span id={remark} role="alert" className="col-span-2 font-semibold text-alpenglow">
          must be a length from {words(least)} to {words(most)}
          {isNeeded ? '' : ', or empty'}
        </span>
      )}
    </label>
  );
}
