import type { Frequency, Rule } from '../../../core/recurrence/rule.ts';
import type { WallTime } from '../../../core/time/wall.ts';
import { AmountField } from '../../design/AmountField.tsx';
import { Select, type SelectOption } from '../../design/Select.tsx';
import { Days } from './Days.tsx';
import { Ending } from './Ending.tsx';
import { Preview } from './Preview.tsx';
import { usualRule, type Repeating } from './repeating.ts';

const UNITS: [Frequency, string, string][] = [
  ['DAILY', 'day', 'days'],
  ['WEEKLY', 'week', 'weeks'],
  ['MONTHLY', 'month', 'months'],
  ['YEARLY', 'year', 'years'],
];

const FREQUENCIES: SelectOption<Frequency | null>[] = [
  { value: null, words: 'once only' },
  { value: 'DAILY', words: 'by days' },
  { value: 'WEEKLY', words: 'by weeks' },
  { value: 'MONTHLY', words: 'by months' },
  { value: 'YEARLY', words: 'by years' },
];

/** How an event repeats: how often, on what, until when; in a sentence, and as its next dates. */
export function RecurrenceEditor({
  value,
  startsAt,
  zone,
  cancelled = [],
  onChange,
}: {
  value: Repeating;
  startsAt: WallTime;
  zone: string;
  /** Dates that were cancelled by themselves. */
  cancelled?: readonly WallTime[];
  onChange: (value: Repeating) => void;
}) {
  const date = startsAt.slice(0, 10);
  const { rule, except } = value;
  const setRule = (next: Rule) => onChange({ rule: next, except });
  return (
    <fieldset className="grid gap-3">
      <legend className="mb-1 font-semibold">Repeats</legend>
      <div className="flex flex-wrap items-center gap-2">
        <Select
          question="Repeats"
          className="w-auto"
          value={rule?.frequency ?? null}
          onChange={(frequency) =>
            onChange(
              frequency
                ? { rule: { ...usualRule(frequency, date), ...endOf(rule) }, except }
                : { rule: null, except: [] },
            )
          }
          options={FREQUENCIES}
        />
        {rule && (
          <span className="flex items-center gap-1">
            every
            <AmountField
              label="Interval"
              least={1}
              most={999}
              value={rule.interval}
              onChange={(interval) => setRule({ ...rule, interval })}
            />
            {
              UNITS.find(([frequency]) => frequency === rule.frequency)![
                rule.interval === 1 ? 1 : 2
              ]
            }
          </span>
        )}
      </div>
      {rule && (
        <>
          <Days rule={rule} date={date} setRule={setRule} />
          <Ending rule={rule} date={date} setRule={setRule} />
          <Preview
            value={{ rule, except }}
            startsAt={startsAt}
            zone={zone}
            cancelled={cancelled}
            onChange={onChange}
          />
        </>
      )}
    </fieldset>
  );
}

const endOf = (rule: Rule | null): Partial<Rule> =>
  rule ? { count: rule.count, until: rule.until } : {};
