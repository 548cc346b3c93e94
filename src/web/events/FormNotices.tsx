import { useState } from 'react';
import { formatDay } from '../../core/time/format.ts';
import { eachField } from '../../core/meetings/fields.ts';
import { readTimes } from '../../core/time/typedTimes.ts';
import { ruleSentence } from '../../core/recurrence/sentence.ts';
import { forget, keptUnder } from '../client/index.ts';
import { GoOn, type Difference } from '../forms/index.ts';
import { Button } from '../design/controls.tsx';
import type { DraftForm } from './useDraftForm.ts';
import { type Draft } from '../meetings/index.ts';

const NAMES: Record<keyof Draft, string> = {
  ...eachField((field) => field.label),
  rights: 'Those who are invited may',
  categoryId: 'Category',
  reminders: 'Reminders',
  typed: 'Time',
  repeating: 'How it repeats',
  people: 'People and places',
  whose: 'in whose name it is',
};

/** What a part of a draft says, in a few words; null where it is too much for that. */
function valueWords(part: keyof Draft, value: Draft[keyof Draft]): string | null {
  if (part === 'title' || part === 'place') return value ? `“${value as string}”` : 'none';
  if (part === 'typed') return timesWords(value as Draft['typed']);
  if (part === 'repeating') {
    const { rule } = value as Draft['repeating'];
    return rule ? ruleSentence(rule, rule.until ?? '2000-01-01T00:00') : 'once only';
  }
  return null;
}

function timesWords(typed: Draft['typed']): string {
  const day = formatDay(Date.parse(`${typed.date}T12:00Z`), 'UTC');
  return typed.allDay ? day : `${day} ${typed.start}–${typed.end}`;
}

/** That a form goes on where it was left, and that somebody else has changed what it changes. */
export function FormNotices({ form }: { form: DraftForm }) {
  const { isRestored, differences, settle, startAfresh } = form;
  return (
    <>
      {isRestored && <GoOn startAfresh={startAfresh} />}
      {differences.length > 0 && (
        <div role="status" className="grid gap-1 rounded-sm bg-glow-wash px-3 py-2">
          <p className="font-semibold">
            Somebody else changed this while it was open here. What you typed is kept.
          </p>
          <ul className="grid gap-1">
            {differences.map((one) => (
              <DifferenceRow key={one.part} difference={one} settle={settle} />
            ))}
          </ul>
        </div>
      )}
    </>
  );
}

function DifferenceRow({
  difference,
  settle,
}: {
  difference: Difference<Draft>;
  settle: DraftForm['settle'];
}) {
  const { part, was, theirs, isMineToo } = difference;
  const before = valueWords(part, was);
  const after = valueWords(part, theirs);
  return (
    <li className="flex flex-wrap items-center gap-x-2">
      <span>
        <b className="font-semibold">{NAMES[part]}</b>
        {after === null || before === null ? (
          ' was changed'
        ) : (
          <>
            : <s className="text-ink-2">{before}</s> {after}
          </>
        )}
        {isMineToo && '; yours stands in the form'}
      </span>
      {isMineToo ? (
        <>
          <Button look="quiet" onClick={() => settle(part, true)}>
            Take theirs
          </Button>
          <Button look="quiet" onClick={() => settle(part, false)}>
            Keep mine
          </Button>
        </>
      ) : (
        <Button look="quiet" onClick={() => settle(part, false)}>
          All right
        </Button>
      )}
    </li>
  );
}

/** What new events that are being made are kept under. */
export const NEW = 'new event ';

/** A new event that was begun before and neither made nor thrown away: to be gone on with. */
export function BegunBefore({ own, onTake }: { own: string; onTake: (draft: Draft) => void }) {
  const [found, setFound] = useState(() =>
    keptUnder<{ content: Draft }>(NEW).filter((one) => one.name !== own),
  );
  const [first] = found;
  if (!first) return null;
  const { title, typed, people } = first.content.content;
  const drop = () => {
    forget(first.name);
    setFound(found.slice(1));
  };
  const whom =
    people.length > 0 && ` with ${people.length} ${people.length === 1 ? 'other' : 'others'}`;
  return (
    <p className="flex flex-wrap items-center justify-between gap-x-3 rounded-sm bg-lichen-wash/50 px-3 py-1.5">
      <span>
        Begun before: <b className="font-semibold">{title || 'no title yet'}</b>,{' '}
        {readTimes(typed).times ? timesWords(typed) : 'no time yet'}
        {whom}
      </span>
      <span className="flex">
        <Button
          look="quiet"
          onClick={() => {
            onTake(first.content.content);
            drop();
          }}
        >
          Go on with it
        </Button>
        <Button look="quiet" onClick={drop}>
          Throw it away
        </Button>
      </span>
    </p>
  );
}
