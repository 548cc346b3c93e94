import type { Frequency, Rule } from '../../../core/recurrence/rule.ts';
import type { WallTime } from '../../../core/time/wall.ts';
import { Choice, TextInput } from '../../design/controls.tsx';
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
        <Choice
          aria-label="Repeats"
          className="w-auto"
          value={rule?.frequency ?? ''}
          onChange={(event) => {
            const frequency = event.target.value as Frequency | '';
            onChange(
              frequency
                ? { rule: { ...usualRule(frequency, date), ...endOf(rule) }, except }
                : { rule: null, except: [] },
            );
          }}
        >
          <option value="">Happens once</option>
          {UNITS.map(([frequency, , many]) => (
            <option key={frequency} value={frequency}>
              Every so many {many}
            </option>
          ))}
        </Choice>
        {rule && (
          <label className="flex items-center gap-2">
            every
            <TextInput
              type="number"
              min={1}
              max={999}
              className="w-16"
              aria-label="Interval"
              value={rule.interval}
              onChange={(event) =>
                setRule({
                  ...rule,
                  interval: Math.max(1, Math.min(999, Number(event.target.value) || 1)),
                })
              }
            />
            {
              UNITS.find(([frequency]) => frequency === rule.frequency)![
                rule.interval === 1 ? 1 : 2
              ]
            }
          </label>
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
