import { useEffect, useId, useRef, useState, type KeyboardEvent } from 'react';
import { formatLength, formatMinute, type ClockStyle } from '../../core/time/format.ts';
import { MINUTE } from '../../core/time/interval.ts';
import { formatTimeOfDay, parseTimeOfDay } from '../../core/time/typedTime.ts';
import { Field, TextInput } from '../design/controls.tsx';

const PICK_STEP = 15;
/** Longer than a press of a button takes. */
const JUDGED_AFTER_MS = 250;

/** A time of day that is typed as one likes, with quarter hours to pick beside it. */
export function TimeField({
  label,
  value,
  error,
  clock,
  now,
  after,
  onChange,
}: {
  label: string;
  value: string;
  error?: string | undefined;
  clock: ClockStyle;
  /** Minutes after midnight at present. */
  now: number;
  /** For an end: minutes of the start, from which the picks count their length. */
  after?: number | null;
  onChange: (text: string) => void;
}) {
  const list = useId();
  const [open, setOpen] = useState(false);
  /** What is being typed, which is not judged before it is left; null while nothing is. */
  const [text, setText] = useState<string | null>(null);
  const [judged, setJudged] = useState(true);
  const judging = useRef<number | undefined>(undefined);
  useEffect(() => () => clearTimeout(judging.current), []);
  const [active, setActive] = useState(-1);
  const box = useRef<HTMLUListElement>(null);
  const base = after ?? null;
  const picks =
    base !== null
      ? [15, 30, 45, 60, 75, 90, 105, 120, 150, 180, 240, 300, 360, 480].map((length) => ({
          minutes: (base + length) % 1440,
          length,
        }))
      : Array.from({ length: 1440 / PICK_STEP }, (_, k) => ({ minutes: k * PICK_STEP, length: 0 }));
  const typed = parseTimeOfDay(value, now);

  const show = () => {
    setOpen(true);
    const at = picks.findIndex((pick) => typed !== null && pick.minutes >= typed);
    setActive(-1);
    requestAnimationFrame(() =>
      box.current?.children[Math.max(0, at)]?.scrollIntoView({ block: 'center' }),
    );
  };
  /** What is wrong is said a moment later: the button just pressed must not move away under the hand. */
  const leave = (afterMs = 0) => {
    clearTimeout(judging.current);
    judging.current = window.setTimeout(() => setJudged(true), afterMs);
    setText(null);
    setOpen(false);
    // What was understood is written out: 1045 becomes 10:45.
    if (typed !== null && value !== formatTimeOfDay(typed)) onChange(formatTimeOfDay(typed));
  };
  const pick = (minutes: number) => {
    setText(null);
    onChange(formatTimeOfDay(minutes));
    setOpen(false);
  };
  const keys = (event: KeyboardEvent) => {
    if (event.key === 'Escape' && open) {
      event.stopPropagation();
      setOpen(false);
    } else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault();
      if (!open) return show();
      const from =
        active < 0
          ? Math.max(
              0,
              picks.findIndex((one) => typed !== null && one.minutes >= typed),
            )
          : active;
      const next = active < 0 ? from : from + (event.key === 'ArrowDown' ? 1 : -1);
      const inside = Math.min(Math.max(0, next), picks.length - 1);
      setActive(inside);
      box.current?.children[inside]?.scrollIntoView({ block: 'nearest' });
    } else if (event.key === 'Enter' && open && active >= 0) {
      event.preventDefault();
      pick(picks[active]!.minutes);
    } else if (event.key === 'Enter') {
      leave();
    }
  };
  return (
    <div className="relative">
      <Field label={label} error={judged ? error : undefined}>
        <TextInput
          inputMode="text"
          autoComplete="off"
          role="combobox"
          aria-expanded={open}
          aria-controls={list}
          aria-activedescendant={open && active >= 0 ? `${list}-${active}` : undefined}
          value={text ?? (typed === null ? value : formatMinute(typed, clock))}
          aria-invalid={judged && !!error}
          onFocus={(event) => event.target.select()}
          onChange={(event) => {
            setText(event.target.value);
            setJudged(false);
            onChange(event.target.value);
            setActive(-1);
          }}
          onClick={show}
          onKeyDown={keys}
          onBlur={() => leave(JUDGED_AFTER_MS)}
        />
      </Field>
      <ul
        ref={box}
        id={list}
        role="listbox"
        aria-label="Times to pick"
        hidden={!open}
        onMouseDown={(event) => event.preventDefault()}
        className="absolute inset-x-0 top-full z-50 max-h-52 min-w-36 overflow-y-auto rounded-sm border border-edge bg-sheet py-1 shadow-lg"
      >
        {open &&
          picks.map(({ minutes, length }, k) => (
            <li
              key={length || minutes}
              id={`${list}-${k}`}
              role="option"
              aria-selected={k === active}
              onClick={() => pick(minutes)}
              className={`cursor-pointer px-2.5 py-1 whitespace-nowrap ${k === active ? 'bg-gentian-wash' : 'hover:bg-gentian-wash'} ${minutes === typed ? 'font-semibold' : ''}`}
            >
              {formatMinute(minutes, clock)}
              {length > 0 && <span className="text-ink-2"> ({formatLength(length * MINUTE)})</span>}
            </li>
          ))}
      </ul>
    </div>
  );
}
