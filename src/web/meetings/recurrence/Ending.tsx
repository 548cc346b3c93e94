import { addMonths } from '../../../core/time/wall.ts';
import { AmountField } from '../../design/AmountField.tsx';
import { Select } from '../../design/Select.tsx';
import { DayField } from '../../time/index.ts';
import type { RulePart } from './repeating.ts';

const ENDS = [
  { value: 'never', words: 'never' },
  { value: 'until', words: 'on a day' },
  { value: 'count', words: 'after a number of dates' },
] as const;

/** When a rule ends: never, on a day, or after so many dates. */
export function Ending({ rule, date, setRule }: RulePart) {
  const kind = rule.count !== null ? 'count' : rule.until !== null ? 'until' : 'never';
  return (
    <div className="flex flex-wrap items-center gap-2">
      <Select
        question="Ends"
        className="w-auto"
        value={kind}
        onChange={(chosen) =>
          setRule({
            ...rule,
            count: chosen === 'count' ? 10 : null,
            until: chosen === 'until' ? addMonths(date, 3) : null,
          })
        }
        options={ENDS}
      />
      {kind === 'until' && (
        <DayField
          label="Last date on or before"
          className="w-48"
          value={rule.until!.slice(0, 10)}
          onChange={(until) => setRule({ ...rule, until })}
        />
      )}
      {kind === 'count' && (
        <span className="flex items-center gap-1">
          <AmountField
            label="How many times"
            least={1}
            most={5000}
            value={rule.count!}
            onChange={(count) => setRule({ ...rule, count })}
          />
          times
        </span>
      )}
    </div>
  );
}
