import { useState, type FormEvent } from 'react';
import { formatDay } from '../../core/time/format.ts';
import { addDays } from '../../core/time/wall.ts';
import { Button, TextInput } from '../design/controls.tsx';
import { Select } from '../design/Select.tsx';
import { OneOf } from '../design/Toggles.tsx';
import {
  FEWEST_SHOWN_DAYS,
  MOST_SHOWN_DAYS,
  VIEW_KINDS,
  VIEW_NAMES,
  type Period,
  type ViewKind,
} from './period.ts';
import { PickDay, parseDay } from '../time/index.ts';

/** A step back, a step on, and today. */
export function Steps({
  today,
  isToday,
  onDate,
  onStep,
}: {
  today: string;
  /** Whether what is shown begins today. */
  isToday: boolean;
  onDate: (date: string) => void;
  onStep: (steps: -1 | 1) => void;
}) {
  return (
    <div className="no-print flex items-center gap-1">
      <Button
        repeats
        aria-label="Earlier"
        title="Earlier"
        className="px-2.5"
        onClick={() => onStep(-1)}
      >
        ‹
      </Button>
      <Button repeats aria-label="Later" title="Later" className="px-2.5" onClick={() => onStep(1)}>
        ›
      </Button>
      <Button onClick={() => onDate(today)} disabled={isToday}>
        Today
      </Button>
    </div>
  );
}

/** The view as a word whose choices open in place. */
export function ViewWord({
  period,
  onView,
  onDays,
}: {
  period: Period;
  onView: (kind: ViewKind) => void;
  onDays: (days: number) => void;
}) {
  return (
    <span className="no-print flex items-center">
      <Select
        look="word"
        question="View"
        value={period.kind}
        onChange={onView}
        options={VIEW_KINDS.map((kind) => ({
          value: kind,
          words: kind === 'days' ? `${period.days} days` : VIEW_NAMES[kind],
        }))}
      />
      {period.kind === 'days' && <DayCount period={period} onDays={onDays} />}
    </span>
  );
}

function DayCount({ period, onDays }: { period: Period; onDays: (days: number) => void }) {
  return (
    <span className="flex shrink-0 gap-px">
      <Button
        look="quiet"
        aria-label="A day less"
        disabled={period.days <= FEWEST_SHOWN_DAYS}
        onClick={() => onDays(period.days - 1)}
      >
        −
      </Button>
      <Button
        look="quiet"
        aria-label="A day more"
        disabled={period.days >= MOST_SHOWN_DAYS}
        onClick={() => onDays(period.days + 1)}
      >
        +
      </Button>
    </span>
  );
}

/** The ways in which a time can be seen. */
export function ViewChoice({
  period,
  onView,
  onDays,
}: {
  period: Period;
  onView: (kind: ViewKind) => void;
  onDays: (days: number) => void;
}) {
  return (
    <>
      <div className="no-print flex max-w-full items-center overflow-x-auto">
        <OneOf
          label="View"
          look="ways"
          value={period.kind}
          onChange={onView}
          options={VIEW_KINDS.map((kind) => ({
            value: kind,
            words: kind === 'days' ? `${period.days} days` : VIEW_NAMES[kind],
          }))}
        />
        {period.kind === 'days' && <DayCount period={period} onDays={onDays} />}
      </div>
    </>
  );
}

/** A day that is typed or picked, to go to. */
export function JumpField({
  date,
  today,
  onDate,
}: {
  date: string;
  today: string;
  onDate: (date: string) => void;
}) {
  const [text, setText] = useState('');
  const [wrong, setWrong] = useState(false);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void parseDay(text, today).then((found) => {
      setWrong(found === null && text.trim() !== '');
      if (!found) return;
      setText('');
      onDate(found.date);
    });
  };
  return (
    <form onSubmit={submit} className="no-print relative flex items-center gap-1">
      <TextInput
        aria-label="Go to a day, typed"
        aria-invalid={wrong}
        placeholder={`${exampleDay(today)}, or Fri`}
        className="w-28"
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setWrong(false);
        }}
      />
      <PickDay label="Pick a day to go to" value={date} onPick={onDate} />
      {wrong && (
        <p
          role="alert"
          className="absolute top-full right-0 z-20 mt-1 w-64 rounded-sm border border-alpenglow bg-sheet px-2.5 py-1.5 font-semibold text-alpenglow shadow-lg"
        >
          “{text}” is not a day. Type one such as {exampleDay(today)}, 2027-02-10 or next Friday.
        </p>
      )}
    </form>
  );
}

/** `8 Dec`: a day two weeks away, so that the example is one that somebody might type. */
const exampleDay = (today: string): string =>
  formatDay(Date.parse(`${addDays(today, 14)}T12:00Z`), 'UTC').slice(4);
