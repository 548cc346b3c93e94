import { useState } from 'react';
import { formatDay } from '../../core/time/format.ts';
import { dateAt, isDate } from '../../core/time/wall.ts';
import { useMe, useNow } from '../client/index.ts';
import { Field, TextInput } from '../design/controls.tsx';
import { PickDay } from './PickDay.tsx';
import { isBeingRead } from './holdUntilRead.ts';
import { parseDay } from './typedDay.ts';

/** `Thu 26 Nov 2026`. */
const dayText = (date: string): string =>
  isDate(date) ? `${formatDay(Date.parse(`${date}T12:00Z`), 'UTC')} ${date.slice(0, 4)}` : date;

/** A day that is typed as one likes (26 Nov, next Friday, 26.11.) or picked, and reads the same everywhere. */
export function DayField({
  label,
  value,
  error,
  className = '',
  bare = false,
  onChange,
}: {
  label: string;
  /** `YYYY-MM-DD`; anything else is what could not be read. */
  value: string;
  error?: string | undefined;
  className?: string;
  /** Without the label before it, which is still said. */
  bare?: boolean;
  onChange: (date: string) => void;
}) {
  const me = useMe();
  const today = dateAt(useNow(), me.zone);
  const [text, setText] = useState<string | null>(null);
  const [wrong, setWrong] = useState(false);
  // What was typed can mean another day as well.
  const [other, setOther] = useState<string | null>(null);
  const read = () => {
    if (text === null) return;
    const found = parseDay(text, today).catch(() => null);
    isBeingRead(
      found.then((day) => {
        setWrong(day === null);
        if (!day) return;
        setText(null);
        setOther(day.other);
        onChange(day.date);
      }),
    );
  };
  return (
    <div className={`relative ${className}`}>
      <Field
        label={label}
        bare={bare}
        error={wrong ? `“${text}” is no day; type one such as 26 Nov or next Friday` : error}
      >
        <TextInput
          className="w-full pr-9"
          autoComplete="off"
          value={text ?? dayText(value)}
          aria-invalid={wrong || !!error}
          data-unread={text === null ? undefined : ''}
          onFocus={(event) => event.target.select()}
          onChange={(event) => {
            const typed = event.target.value;
            setWrong(false);
            setOther(null);
            setText(isDate(typed) ? null : typed);
            if (isDate(typed)) onChange(typed);
          }}
          onBlur={read}
          onKeyDown={(event) => event.key === 'Enter' && read()}
        />
      </Field>
      {other && (
        <button
          type="button"
          className="mt-0.5 block text-xs font-semibold text-gentian hover:underline"
          onClick={() => {
            onChange(other);
            setOther(value);
          }}
        >
          or {dayText(other)}?
        </button>
      )}
      <PickDay
        label="Pick a day"
        value={value}
        onPick={(date) => {
          setText(null);
          setWrong(false);
          setOther(null);
          onChange(date);
        }}
        className={`absolute right-0 ${bare ? 'inset-y-0 my-auto' : 'top-[25px] max-sm:top-[24px]'}`}
      />
    </div>
  );
}
