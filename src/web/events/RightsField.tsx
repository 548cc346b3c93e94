import type { EventDetail } from '../../contract/eventDetail.ts';
import { Tick } from '../design/ticks.tsx';

type Rights = EventDetail['rights'];

const RIGHTS: readonly (readonly [keyof Rights, string])[] = [
  ['list', 'see who else is asked'],
  ['invite', 'ask others as well'],
  ['change', 'change it, though not cancel it'],
  ['count', 'from outside, see how many of the others are free'],
];

/** What those who are invited may do beside answering. */
export function RightsField({
  value,
  onChange,
}: {
  value: Rights;
  onChange: (value: Rights) => void;
}) {
  return (
    <fieldset className="grid gap-1.5">
      <legend className="mb-1 font-semibold">Those who are invited may</legend>
      {RIGHTS.map(([right, words]) => (
        <Tick
          key={right}
          label={words}
          on={value[right]}
          onChange={(on) => onChange({ ...value, [right]: on })}
        />
      ))}
    </fieldset>
  );
}

/** What they may, as a chip says it. */
export const rightsWords = ({ list, invite, change }: Rights): string =>
  change
    ? 'Invitees may change it'
    : invite
      ? 'Invitees may ask others'
      : list
        ? 'What invitees may do'
        : 'Invitees do not see each other';
