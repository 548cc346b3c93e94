import { useState } from 'react';
import type { Reminder } from '../../contract/events.ts';
import { formatLength } from '../../core/time/format.ts';
import { MINUTE } from '../../core/time/interval.ts';
import { Button, Choice, TextInput } from '../design/controls.tsx';

const UNITS = [
  [1, 'minutes'],
  [60, 'hours'],
  [1440, 'days'],
] as const;
const MOST_MINUTES = 40_320;
const MOST = 5;

export const reminderWords = ({ minutes, means }: Reminder): string =>
  `${minutes === 0 ? 'when it begins' : `${formatLength(minutes * MINUTE)} before`}, ${means === 'popup' ? 'on the screen' : 'by mail'}`;

/** Several reminders, each so many minutes, hours or days before. */
export function RemindersField({
  label = 'Remind me',
  value,
  onChange,
}: {
  label?: string;
  value: readonly Reminder[];
  onChange: (value: Reminder[]) => void;
}) {
  const [amount, setAmount] = useState('15');
  const [unit, setUnit] = useState<number>(1);
  const [means, setMeans] = useState<Reminder['means']>('popup');
  const minutes = Math.round(Number(amount) * unit);
  const valid = amount.trim() !== '' && minutes >= 0 && minutes <= MOST_MINUTES;
  const twice = value.some((one) => one.minutes === minutes && one.means === means);
  return (
    <fieldset className="grid gap-2">
      <legend className="mb-1 font-semibold">{label}</legend>
      <ul className="flex flex-wrap gap-1.5">
        {value.length === 0 && <li className="text-ink-2">No reminder.</li>}
        {value.map((one) => (
          <li
            key={`${one.minutes} ${one.means}`}
            className="flex items-center gap-1 rounded-sm border border-edge bg-sheet pl-2"
          >
            {reminderWords(one)}
            <button
              type="button"
              aria-label={`Remove: ${reminderWords(one)}`}
              className="px-2 py-1 font-semibold text-ink-2 hover:text-alpenglow"
              onClick={() => onChange(value.filter((other) => other !== one))}
            >
              ×
            </button>
          </li>
        ))}
      </ul>
      {value.length < MOST && (
        <div className="flex flex-wrap items-center gap-2">
          <TextInput
            type="number"
            min={0}
            aria-label="How long before"
            className="w-20"
            value={amount}
            aria-invalid={!valid}
            onChange={(event) => setAmount(event.target.value)}
          />
          <Choice
            aria-label="Unit"
            className="w-auto"
            value={unit}
            onChange={(event) => setUnit(Number(event.target.value))}
          >
            {UNITS.map(([size, name]) => (
              <option key={size} value={size}>
                {name} before
              </option>
            ))}
          </Choice>
          <Choice
            aria-label="How"
            className="w-auto"
            value={means}
            onChange={(event) => setMeans(event.target.value as Reminder['means'])}
          >
            <option value="popup">on the screen</option>
            <option value="mail">by mail</option>
          </Choice>
          <Button
            disabled={!valid || twice}
            onClick={() =>
              onChange([...value, { minutes, means }].sort((a, b) => a.minutes - b.minutes))
            }
          >
            Add
          </Button>
          {!valid && <span className="text-alpenglow">at most 28 days before</span>}
        </div>
      )}
    </fieldset>
  );
}
