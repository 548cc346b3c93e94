import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { counted } from '../../core/counted.ts';
import { isDate } from '../../core/time/wall.ts';
import {
  ApiProblem,
  callApi,
  errorText,
  offerUndo,
  takeChangesBack,
  useChanged,
} from '../client/index.ts';
import { Button, Field, TextInput } from '../design/controls.tsx';
import { Panel } from '../design/Panel.tsx';
import { Options } from '../design/ticks.tsx';
import { DayField } from '../time/index.ts';

const PARTS = {
  day: undefined,
  morning: { start: 0, end: 720 },
  afternoon: { start: 720, end: 1440 },
} as const;
type Part = keyof typeof PARTS;

/** A day that is off at every site, or half of one. */
export function DayOffPanel({ open, onClose }: { open: boolean; onClose: () => void }) {
  const changed = useChanged();
  const [date, setDate] = useState('');
  const [name, setName] = useState('');
  const [part, setPart] = useState<Part>('day');
  const add = useMutation({
    mutationFn: () =>
      callApi('POST /api/administration/days-off', {
        body: { date, name, ...(PARTS[part] && { part: PARTS[part] }) },
      }),
    onSuccess: async ({ sites, changes }) => {
      const refresh = () => changed('directory', 'person');
      await refresh();
      offerUndo(
        sites === 0
          ? 'It stands at every site already.'
          : `${name} is off at ${counted(sites, 'site')}.`,
        () => takeChangesBack(changes).then(refresh),
        changes,
      );
      onClose();
    },
  });
  const wrong = (field: string) =>
    add.error instanceof ApiProblem ? add.error.field(field) : undefined;
  return (
    <Panel open={open} onClose={onClose} title="A day off everywhere">
      <form
        noValidate
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          if (isDate(date) && name.trim()) add.mutate();
        }}
      >
        <p className="text-ink-2">
          It is added to the holidays of every site, and shaded in every plan.
        </p>
        <DayField label="Day" error={wrong('date')} value={date} onChange={setDate} />
        <Field label="What it is called" error={wrong('name')}>
          <TextInput
            maxLength={120}
            value={name}
            placeholder="Founders’ day"
            onChange={(event) => setName(event.target.value)}
          />
        </Field>
        <Options<Part>
          label="What of it is off"
          value={part}
          onChange={setPart}
          options={[
            ['day', 'all of it'],
            ['morning', 'until noon'],
            ['afternoon', 'from noon'],
          ]}
        />
        {add.isError && (
          <p role="alert" className="rounded-sm bg-glow-wash px-3 py-2 font-semibold">
            {errorText(add.error)}
          </p>
        )}
        <Button look="act" type="submit" disabled={!isDate(date) || !name.trim() || add.isPending}>
          Add it to every site
        </Button>
      </form>
    </Panel>
  );
}
