import { useState } from 'react';
import type { CatalogueChoices, NewPlaceRequest } from '../../contract/catalogue.ts';
import { weekOf } from '../../core/time/workingHours.ts';
import { TextInput } from '../design/controls.tsx';
import { Tick } from '../design/ticks.tsx';
import { LengthField, WeekHours } from '../time/index.ts';

export type Rules = NewPlaceRequest['rules'];

const USUAL_HOURS = { start: 8 * 60, end: 18 * 60 };
const USUAL_CURRENCY = 'NOK';

/** Rules that are a length, or none: how they are called, what they count, and within which bounds. */
const LENGTHS = [
  ['shortestMinutes', 'For at least', 'minutes', 5, 1440],
  ['longestMinutes', 'For at most', 'minutes', 5, 44_640],
  ['stepMinutes', 'In steps of', 'minutes', 5, 1440],
  ['noticeMinutes', 'Booked ahead at least', 'minutes', 0, 525_600],
  ['horizonDays', 'Booked ahead at most', 'days', 0, 730],
  ['weeklyMinutes', 'For each within a week at most', 'minutes', 15, 10_080],
  ['graceMinutes', 'Given to others if nobody checks in within', 'minutes', 5, 240],
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
      {LENGTHS.map(([rule, label, unit, least, most]) => (
        <LengthField
          key={rule}
          label={label}
          unit={unit}
          least={least}
          most={most}
          value={rules[rule]}
          onChange={(value) => onChange({ [rule]: value })}
        />
      ))}
      <PriceOrNone
        label="An hour costs"
        currency={hourlyPrice?.currency ?? USUAL_CURRENCY}
        hundredths={hourlyPrice?.hundredths ?? null}
        onChange={(hundredths) => {
          const currency = hourlyPrice?.currency ?? USUAL_CURRENCY;
          onChange({ hourlyPrice: hundredths === null ? null : { hundredths, currency } });
        }}
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

const MOST = 100_000_000;

/** Hundredths of "120", "99.50" or "99,5"; null where it is no price. */
function priceIn(typed: string): number | null {
  const match = /^(\d{1,7})(?:[.,](\d{1,2}))?$/.exec(typed.trim());
  if (!match) return null;
  const hundredths = Number(match[1]) * 100 + Number((match[2] ?? '0').padEnd(2, '0'));
  return hundredths >= 1 && hundredths <= MOST ? hundredths : null;
}

/** A price, or nothing; what is neither is said to be so. */
function PriceOrNone({
  label,
  currency,
  hundredths,
  onChange,
}: {
  label: string;
  currency: string;
  hundredths: number | null;
  onChange: (hundredths: number | null) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  const shown = text ?? (hundredths === null ? '' : String(hundredths / 100));
  const fits = shown.trim() === '' || priceIn(shown) !== null;
  return (
    <label className="grid grid-cols-[1fr_auto] items-center gap-x-2">
      <span>{label}</span>
      <span className="flex items-center gap-1.5">
        <TextInput
          inputMode="decimal"
          className="w-20 text-right"
          value={shown}
          aria-invalid={!fits}
          onChange={({ target: { value } }) => {
            setText(value);
            if (value.trim() === '') onChange(null);
            else if (priceIn(value) !== null) onChange(priceIn(value));
          }}
          onBlur={() => fits && setText(null)}
        />
        <span className="w-9 text-ink-2">{currency}</span>
      </span>
      {!fits && (
        <span role="alert" className="col-span-2 font-semibold text-alpenglow">
          must be a price from 0.01 to {MOST / 100}, or empty
        </span>
      )}
    </label>
  );
}
