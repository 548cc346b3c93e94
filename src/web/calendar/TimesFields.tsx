import { Field, TextInput } from '../design/controls.tsx';
import type { ReadTimes, TypedTimes } from './useTyped.ts';

/** Day, start and end, typed freely. */
export function TimesFields({
  typed,
  change,
  errors,
  allowAllDay = true,
}: {
  typed: TypedTimes;
  change: (part: Partial<TypedTimes>) => void;
  errors: ReadTimes['errors'];
  allowAllDay?: boolean;
}) {
  return (
    <div className="grid gap-3">
      <div className="grid grid-cols-[1.4fr_1fr_1fr] items-start gap-2">
        <Field label={typed.allDay ? 'First day' : 'Day'} error={errors.date}>
          <TextInput
            type="date"
            value={typed.date}
            onChange={(event) =>
              change({
                date: event.target.value,
                ...(typed.lastDate < event.target.value && { lastDate: event.target.value }),
              })
            }
          />
        </Field>
        {typed.allDay ? (
          <Field label="Last day" error={errors.end} className="col-span-2">
            <TextInput
              type="date"
              value={typed.lastDate}
              onChange={(event) => change({ lastDate: event.target.value })}
            />
          </Field>
        ) : (
          <>
            <Field label="Start" error={errors.start}>
              <TextInput
                inputMode="text"
                value={typed.start}
                aria-invalid={!!errors.start}
                onChange={(event) => change({ start: event.target.value })}
              />
            </Field>
            <Field label="End" error={errors.end}>
              <TextInput
                inputMode="text"
                value={typed.end}
                aria-invalid={!!errors.end}
                onChange={(event) => change({ end: event.target.value })}
              />
            </Field>
          </>
        )}
      </div>
      {allowAllDay && (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={typed.allDay}
            onChange={(event) => change({ allDay: event.target.checked })}
          />
          Whole days
        </label>
      )}
    </div>
  );
}
