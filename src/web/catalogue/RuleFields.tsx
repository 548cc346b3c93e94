import { useState } from 'react';
import type { CatalogueChoices, NewPlaceRequest } from '../../contract/catalogue.ts';
import { weekOf } from '../../core/time/workingHours.ts';
import { TextInput } from '../design/controls.tsx';
import { Tick } from '../design/ticks.tsx';
import { WeekHours } from '../time/index.ts';

export type Rules = NewPlaceRequest['rules'];

const USUAL_HOURS = { start: 8 * 60, end: 18 * 60 };
const USUAL_CURRENCY = 'NOK';

/** Rules that are a number, or none, with what stands around it. */
const NUMBERS = [
  ['shortestMinutes', 'For at least', 'min', 5, 1440],
  ['longestMinutes', 'For at most', 'min', 5, 44_640],
  ['stepMinutes', 'In steps of', 'min', 5, 1440],
  ['noticeMinutes', 'Booked ahead at least', 'min', 0, 525_600],
  ['horizonDays', 'Booked ahead at most', 'days', 0, 730],
  ['weeklyMinutes', 'For each within a week at most', 'min', 15, 10_080],
  ['graceMinutes', 'Given to others if nobody checks in within', 'min', 5, 240],
] as const;

/** What bookings of a place are bound by; what is left empty is no bound. */
export function RuleFields({
  rules,
  teams,
  onChange,
}: {
  rules: Rules;
  teams: CatalogueChoices['teams'];
  onChange: (part: Partial<Rules>) => void;
}) {
  const { open, hourlyPrice } = rules;
  return (
    <div className="grid gap-3">
      <Tick
        label="Open at certain hours alone"
        on={open !== null}
        onChange={(on) => onChange({ open: on ? copy(weekOf(USUAL_HOURS)) : null })}
      />
      {open !== null && (
        <WeekHours
          legend="Open"
          remark="On its own clock."
          hours={open}
          onChange={(hours) => onChange({ open: hours })}
        />
      )}
      {NUMBERS.map(([rule, label, unit, least, most]) => (
        <NumberOrNone
          key={rule}
          label={label}
          unit={unit}
          least={least}
          most={most}
          value={rules[rule]}
          onChange={(value) => onChange({ [rule]: value })}
        />
      ))}
      <NumberOrNone
        label="An hour costs"
        unit={hourlyPrice?.currency ?? USUAL_CURRENCY}
        least={1}
        most={1_000_000}
        value={hourlyPrice && hourlyPrice.hundredths / 100}
        onChange={(value) =>
          onChange({
            hourlyPrice:
              value === null
                ? null
                : {
                    hundredths: value * 100,
                    currency: hourlyPrice?.currency ?? USUAL_CURRENCY,
                  },
          })
        }
      />
      <Tick
        label="A steward agrees to each booking first"
        on={rules.approval === true}
        onChange={(on) => onChange({ approval: on ? true : null })}
      />
      <fieldset>
        <legend className="font-semibold">
          For these teams alone; for everybody where none is
        </legend>
        <div className="mt-1 flex flex-wrap gap-x-5 gap-y-1">
          {teams.map(({ id, name }) => (
            <Tick
              key={id}
              label={name}
              on={rules.teams?.includes(id) ?? false}
              onChange={(on) => {
                const others = (rules.teams ?? []).filter((one) => one !== id);
                const next = on ? [...others, id] : others;
                onChange({ teams: next.length > 0 ? next : null });
              }}
            />
          ))}
        </div>
      </fieldset>
    </div>
  );
}

const copy = (hours: ReturnType<typeof weekOf>) =>
  hours.map((day) => day.map((one) => ({ ...one })));

/** A whole number, or nothing; what is neither is said to be so, and what was there before counts. */
function NumberOrNone({
  label,
  unit,
  least,
  most,
  value,
  onChange,
}: {
  label: string;
  unit: string;
  least: number;
  most: number;
  value: number | null;
  onChange: (value: number | null) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  const shown = text ?? (value === null ? '' : String(value));
  const fits = (typed: string) => {
    const number = Number(typed);
    return typed.trim() === '' || (Number.isInteger(number) && number >= least && number <= most);
  };
  return (
    <label className="grid grid-cols-[1fr_auto] items-center gap-x-2">
      <span>{label}</span>
      <span className="flex items-center gap-1.5">
        <TextInput
          inputMode="numeric"
          className="w-20 text-right"
          value={shown}
          aria-invalid={!fits(shown)}
          onChange={({ target }) => {
            setText(target.value);
            if (fits(target.value))
              onChange(target.value.trim() === '' ? null : Number(target.value));
          }}
          onBlur={() => fits(shown) && setText(null)}
        />
        <span className="w-9 text-ink-2">{unit}</span>
      </span>
      {!fits(shown) && (
        <span role="alert" className="col-span-2 font-semibold text-alpenglow">
          must be a whole number from {least} to {most}, or empty
        </span>
      )}
    </label>
  );
}
