import {
  CHOICE_FIELD_NAMES,
  fieldOf,
  MEETING_FIELDS,
  RICH_FIELD_NAMES,
  type FieldName,
} from '../../core/meetings/fields.ts';
import { Plus } from 'lucide-react';
import { Suspense, useState } from 'react';
import type { WallTime } from '../../core/time/wall.ts';
import { lazily } from '../design/fetched.ts';
import { Guard } from '../design/Guard.tsx';
import { Select } from '../design/Select.tsx';
import { CategoryField } from './CategoryField.tsx';
import { RightsField, rightsWords } from './RightsField.tsx';
import {
  RecurrenceEditor,
  RemindersField,
  reminderWords,
  type Draft,
  usualRule,
} from '../meetings/index.ts';

const RichText = lazily(async () => (await import('./RichText.tsx')).default);

/** What can be chosen of a field, in its order: each value by its words. */
const optionsOf = ({ words }: { words: Readonly<Record<string, string>> }) =>
  Object.entries(words).map(([value, said]) => ({ value, words: said }));

type TextPart = (typeof RICH_FIELD_NAMES)[number];
const TEXTS = RICH_FIELD_NAMES.map((name): [TextPart, string] => [
  name,
  MEETING_FIELDS[name].label,
]);

/**
 * What an event need not say: small chips that open their part in place, or are the part. What says
 * something already stands open.
 */
export function FurtherParts({
  draft,
  set,
  full,
  repeats,
  mayGrant,
  startsAt,
  cancelled,
  problemOf,
}: {
  draft: Draft;
  set: (part: Partial<Draft>) => void;
  /** Whether texts are written here, too. */
  full: boolean;
  /** Whether how it repeats can be changed here. */
  repeats: boolean;
  /** Whether what those who are invited may do is decided here. */
  mayGrant: boolean;
  startsAt: WallTime;
  cancelled?: readonly string[];
  problemOf: (field: string) => string | undefined;
}) {
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set());
  const open = (part: string) => setOpened((before) => new Set(before).add(part));
  const isRepeating = repeats && draft.repeating.rule !== null;
  const shows = (part: TextPart) =>
    full && (part === 'description' || draft[part] !== '' || opened.has(part));
  const [first] = draft.reminders;
  const further = draft.reminders.length - 1;
  return (
    <>
      {isRepeating && (
        <Guard what="how it repeats" until={draft.repeating}>
          <RecurrenceEditor
            value={draft.repeating}
            startsAt={startsAt}
            zone={draft.typed.zone}
            {...(cancelled && { cancelled })}
            onChange={(repeating) => set({ repeating })}
          />
        </Guard>
      )}
      {TEXTS.filter(([part]) => shows(part)).map(([part, label]) => (
        <div key={part}>
          <p className="mb-1 font-semibold">{label}</p>
          <Suspense fallback={<div className="h-28 rounded-sm border border-edge bg-sheet" />}>
            <RichText
              label={label}
              value={draft[part]}
              onChange={(html) => set({ [part]: html })}
            />
          </Suspense>
          {problemOf(part) && (
            <p role="alert" className="mt-1 font-semibold text-alpenglow">
              {problemOf(part)}
            </p>
          )}
        </div>
      ))}
      {opened.has('reminders') && (
        <RemindersField value={draft.reminders} onChange={(reminders) => set({ reminders })} />
      )}
      {opened.has('rights') && (
        <RightsField value={draft.rights} onChange={(rights) => set({ rights })} />
      )}
      <div className="flex flex-wrap gap-1.5">
        {repeats && !isRepeating && (
          <Chip
            onClick={() =>
              set({ repeating: { rule: usualRule('WEEKLY', draft.typed.date), except: [] } })
            }
          >
            Repeat it
          </Chip>
        )}
        <CategoryField value={draft.categoryId} onChange={(categoryId) => set({ categoryId })} />
        {CHOICE_FIELD_NAMES.map((name) => (
          <FieldChoice
            key={name}
            name={name}
            value={draft[name]}
            onChange={(value) => set({ [name]: value })}
          />
        ))}
        {mayGrant && !opened.has('rights') && (
          <Chip onClick={() => open('rights')}>{rightsWords(draft.rights)}</Chip>
        )}
        {!opened.has('reminders') && (
          <Chip onClick={() => open('reminders')}>
            {first
              ? `Remind me ${reminderWords(first)}${further > 0 ? ` and ${further} more` : ''}`
              : 'Remind me'}
          </Chip>
        )}
        {full &&
          TEXTS.filter(([part]) => !shows(part)).map(([part, label]) => (
            <Chip key={part} onClick={() => open(part)}>
              {label}
            </Chip>
          ))}
      </div>
    </>
  );
}

/** One of the values of a field; what another program said of it stands as it is. */
function FieldChoice({
  name,
  value,
  onChange,
}: {
  name: FieldName;
  value: string | number;
  onChange: (value: string | number) => void;
}) {
  const field = fieldOf(name);
  if (!('words' in field)) return null;
  const options = optionsOf(field);
  const given = String(value);
  const known = options.some((one) => one.value === given);
  return (
    <Select
      look="chip"
      question={field.label}
      value={given}
      onChange={(next) => onChange(field.kind === 'number' ? Number(next) : next)}
      options={known ? options : [...options, { value: given, words: given }]}
    />
  );
}

const Chip = ({ onClick, children }: { onClick: () => void; children: string }) => (
  <button
    type="button"
    onClick={onClick}
    className="inline-flex min-h-7 items-center gap-1 rounded-full border border-edge bg-sheet px-3 py-0.5 text-ink hover:border-ink-2 max-sm:min-h-11"
  >
    <Plus size={13} aria-hidden="true" />
    {children}
  </button>
);
