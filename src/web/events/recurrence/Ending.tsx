import { addMonths } from '../../../core/time/wall.ts';
import { Choice, TextInput } from '../../design/controls.tsx';
import { DayField } from '../../time/index.ts';
import type { RulePart } from './repeating.ts';

/** When a rule ends: never, on a day, or after so many dates. */
export function Ending({ rule, date, setRule }: RulePart) {
  const kind = rule.count !== null ? 'count' : rule.until !== null ? 'until' : 'never';
  return (
    <div className="flex flex-wrap items-center gap-2">
      <Choice
        aria-label="Ends"
        className="w-auto"
        value={kind}
        onChange={(event) =>
          setRule({
            ...rule,
            count: event.target.value === 'count' ? 10 : null,
            until: event.target.value === 'until' ? addMonths(date, 3) : null,
          })
        }
      >
        <option value="never">without an end</option>
        <option value="until">until a day</option>
        <option value="count">so many times</option>
      </Choice>
      {kind === 'until' && (
        <DayField
          label="Last date on or before"
          className="w-48"
          value={rule.until!.slice(0, 10)}
          onChange={(until) => setRule({ ...rule, until })}
        />
      )}
      {kind === 'count' && (
        <label className="flex items-center gap-2">
          <TextInput
            type="number"
            min={1}
            max={5000}
            className="w-20"
            aria-label="How many times"
            value={rule.count!}
            onChange={(event) =>
              setRule({
                ...rule,
                count: Math.max(1, Math.min(5000, Number(event.target.value) || 1)),
              })
            }
          />
          times
        </label>
      )}
    </div>
  );
}
