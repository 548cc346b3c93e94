import type { Scope } from '../../contract/events.ts';
import { formatDay } from '../../core/time/format.ts';
import { useMe } from '../client/index.ts';
import { Options } from '../design/ticks.tsx';

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
    <Options
      label="For"
      value={value}
      onChange={onChange}
      options={PARTS.map(([scope, words]) => [scope, words(formatDay(start, me.zone))] as const)}
    />
  );
}
