import { Check } from 'lucide-react';
import { Checkbox, RadioGroup, Switch as RadixSwitch } from 'radix-ui';
import { useId, type ReactNode } from 'react';

const ROW = 'flex items-center gap-2 min-h-6 max-sm:min-h-11';
const BOX =
  'reach grid size-[18px] shrink-0 place-items-center border border-ink-2 bg-sheet disabled:opacity-50';

interface OnOff {
  label: ReactNode;
  on: boolean;
  onChange: (on: boolean) => void;
  disabled?: boolean;
  className?: string;
}

/** Something that holds or does not, and counts once the form is sent. */
export function Tick({ label, on, onChange, disabled = false, className = '' }: OnOff) {
  const id = useId();
  return (
    <div className={`${ROW} ${className}`}>
      <Checkbox.Root
        id={id}
        checked={on}
        onCheckedChange={(now) => onChange(now === true)}
        disabled={disabled}
        className={`${BOX} rounded-sm data-[state=checked]:border-gentian data-[state=checked]:bg-gentian`}
      >
        <Checkbox.Indicator>
          <Check size={14} strokeWidth={3} className="text-on-gentian" aria-hidden="true" />
        </Checkbox.Indicator>
      </Checkbox.Root>
      <label htmlFor={id} className="cursor-pointer py-0.5 max-sm:py-3">
        {label}
      </label>
    </div>
  );
}

/** Something that is on or off from the moment it is touched. */
export function Switch({ label, on, onChange, disabled = false, className = '' }: OnOff) {
  const id = useId();
  return (
    <div className={`${ROW} ${className}`}>
      <RadixSwitch.Root
        id={id}
        checked={on}
        onCheckedChange={onChange}
        disabled={disabled}
        className="reach h-5 w-9 shrink-0 rounded-full border border-ink-2 bg-sheet transition-colors disabled:opacity-50 data-[state=checked]:border-gentian data-[state=checked]:bg-gentian"
      >
        <RadixSwitch.Thumb className="block size-3.5 translate-x-0.5 rounded-full bg-ink-2 transition-transform data-[state=checked]:translate-x-[17px] data-[state=checked]:bg-on-gentian" />
      </RadixSwitch.Root>
      <label htmlFor={id} className="cursor-pointer py-0.5 max-sm:py-3">
        {label}
      </label>
    </div>
  );
}

/** One of a few, all of them in view. */
export function Options<Value extends string>({
  label,
  bare = false,
  value,
  options,
  onChange,
}: {
  label: string;
  /** Whether the label is only said. */
  bare?: boolean;
  value: Value;
  options: readonly (readonly [Value, string])[];
  onChange: (value: Value) => void;
}) {
  const id = useId();
  return (
    <div>
      <p id={id} className={bare ? 'sr-only' : 'mb-1 font-semibold'}>
        {label}
      </p>
      <RadioGroup.Root
        aria-labelledby={id}
        value={value}
        onValueChange={(next) => onChange(next as Value)}
        className="flex flex-wrap gap-x-4 gap-y-1"
      >
        {options.map(([option, words]) => (
          <span key={option} className={ROW}>
            <RadioGroup.Item
              id={`${id}-${option}`}
              value={option}
              className={`${BOX} rounded-full data-[state=checked]:border-gentian`}
            >
              <RadioGroup.Indicator className="block size-2.5 rounded-full bg-gentian" />
            </RadioGroup.Item>
            <label htmlFor={`${id}-${option}`} className="cursor-pointer py-0.5 max-sm:py-3">
              {words}
            </label>
          </span>
        ))}
      </RadioGroup.Root>
    </div>
  );
}
