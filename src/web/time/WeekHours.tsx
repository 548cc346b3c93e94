import { useState } from 'react';
import { formatTimeOfDay, parseTimeOfDay } from '../../core/time/typedTime.ts';
import type { Shift } from '../../core/time/workingHours.ts';
import { Button, TextInput } from '../design/controls.tsx';
import { Tick } from '../design/ticks.tsx';

const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
const USUAL: Shift = { start: 480, end: 960 };

const shiftText = ({ start, end }: Shift): string =>
  `${formatTimeOfDay(start)}–${formatTimeOfDay(end % 1440)}`;

/** Shifts as typed, `8:00–12:00, 13–16`; an end before its start is the next day's. */
export function parseShifts(text: string): Shift[] | null {
  if (text.trim() === '') return [];
  const shifts = text.split(',').map((part): Shift | null => {
    const [from, to, ...rest] = part.split(/–|-|to/);
    const start = parseTimeOfDay(from ?? '');
    const end = to?.trim() === '24:00' ? 1440 : parseTimeOfDay(to ?? '');
    if (start === null || end === null || rest.length > 0) return null;
    return { start, end: end > start ? end : end + 1440 };
  });
  const known = shifts.filter((one) => one !== null).sort((a, b) => a.start - b.start);
  if (known.length < shifts.length) return null;
  return known.every((one, k) => k === 0 || one.start >= known[k - 1]!.end) ? known : null;
}

/** Hours of each weekday, typed. */
export function WeekHours({
  legend,
  remark,
  hours,
  onChange,
}: {
  legend: string;
  remark: string;
  hours: readonly (readonly Shift[])[];
  onChange: (hours: Shift[][]) => void;
}) {
  const copy = hours.map((day) => [...day]);
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">{legend}</legend>
      <p className="mb-2 text-ink-2">
        {remark} Several a day, such as 8:00–12:00, 13:00–16:00, are fine.
      </p>
      <div className="grid gap-1.5">
        {WEEKDAYS.map((name, k) => (
          <DayHours
            key={name}
            name={name}
            shifts={copy[k]!}
            onChange={(shifts) => onChange(copy.with(k, shifts))}
          />
        ))}
      </div>
      <Button
        className="mt-2"
        onClick={() => onChange(copy.map((_, k) => (k < 5 ? [...copy[0]!] : copy[k]!)))}
      >
        Copy Monday to the days until Friday
      </Button>
    </fieldset>
  );
}

function DayHours({
  name,
  shifts,
  onChange,
}: {
  name: string;
  shifts: Shift[];
  onChange: (shifts: Shift[]) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  const shown = shifts.map(shiftText).join(', ');
  const wrong = text !== null && parseShifts(text) === null;
  return (
    <div className="flex flex-wrap items-center gap-3">
      <Tick
        label={name}
        className="w-36"
        on={shifts.length > 0}
        onChange={(on) => onChange(on ? [USUAL] : [])}
      />
      {shifts.length > 0 && (
        <TextInput
          aria-label={`Hours on ${name}`}
          aria-invalid={wrong}
          className="w-64"
          value={text ?? shown}
          onChange={(event) => setText(event.target.value)}
          onBlur={() => {
            const parsed = text === null ? null : parseShifts(text);
            if (!parsed) return;
            setText(null);
            onChange(parsed);
          }}
          onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        />
      )}
      {wrong && (
        <span role="alert" className="text-alpenglow">
          type hours such as 8:00–12:00, 13:00–16:00, none overlapping another
        </span>
      )}
    </div>
  );
}
