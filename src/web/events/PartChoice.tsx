import type { Scope } from '../../contract/events.ts';
import { formatDay } from '../../core/time/format.ts';
import { useMe } from '../app/index.ts';

const PARTS: [Scope, (day: string) => string][] = [
  ['one', (day) => `Only ${day}`],
  ['following', (day) => `${day} and all after it`],
  ['all', () => 'The whole series'],
];

/** Which part of a series is meant. */
export function PartChoice({
  start,
  value,
  onChange,
}: {
  /** Start of the occurrence in view. */
  start: number;
  value: Scope;
  onChange: (scope: Scope) => void;
}) {
  const me = useMe();
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">For</legend>
      <div className="flex flex-wrap gap-x-4 gap-y-1">
        {PARTS.map(([scope, words]) => (
          <label key={scope} className="flex items-center gap-1.5">
            <input
              type="radio"
              name="part"
              checked={value === scope}
              onChange={() => onChange(scope)}
            />
            {words(formatDay(start, me.zone))}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
