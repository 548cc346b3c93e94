import { useState } from 'react';
import type { Reminder } from '../../contract/eventParts.ts';
import { formatLength } from '../../core/time/format.ts';
import { MINUTE } from '../../core/time/interval.ts';
import { AmountField } from '../design/AmountField.tsx';
import { Button } from '../design/controls.tsx';
import { Select, type SelectOption } from '../design/Select.tsx';

const UNITS: SelectOption<number>[] = [
  { value: 1, words: 'minutes before' },
  { value: 60, words: 'hours before' },
  { value: 1440, words: 'days before' },
];
const MEANS: SelectOption<Reminder['means']>[] = [
  { value: 'popup', words: 'on the screen' },
  { value: 'mail', words: 'by mail' },
];
/** Four weeks. */
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
  const [amount, setAmount] = useState(15);
  const [unit, setUnit] = useState(1);
  const [means, setMeans] = useState<Reminder['means']>('popup');
  const minutes = amount * unit;
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
          <AmountField
            label="How long before"
            least={0}
            most={Math.floor(MOST_MINUTES / unit)}
            value={amount}
            onChange={setAmount}
          />
          <Select
            question="Unit"
            look="word"
            value={unit}
            onChange={(size) => {
              setUnit(size);
              setAmount(Math.min(amount, Math.floor(MOST_MINUTES / size)));
            }}
            options={UNITS}
          />
          <Select question="How" look="word" value={means} onChange={setMeans} options={MEANS} />
          <Button
            disabled={twice}
            onClick={() =>
              onChange([...value, { minutes, means }].sort((a, b) => a.minutes - b.minutes))
            }
          >
            Add
          </Button>
        </div>
      )}
    </fieldset>
  );
}
