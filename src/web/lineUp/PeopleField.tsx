import { X } from 'lucide-react';
import { useState } from 'react';
import { LONGEST_PLACE } from '../../core/meetings/fields.ts';
import { formatTime } from '../../core/time/format.ts';
import type { Interval } from '../../core/time/interval.ts';
import { useMe } from '../client/index.ts';
import { IconButton } from '../design/controls.tsx';
import { Initials } from '../design/Initials.tsx';
import { joined, type LineUpEntry } from './address.ts';
import { AddMember } from './AddMember.tsx';
import { fitWords } from './fitWords.ts';
import { type Gathering } from './useGathering.ts';

/** Whom and what a new event needs: each with how its time suits them, and the field that adds more. */
export function PeopleField({
  people,
  gathering,
  span,
  onChange,
  place,
}: {
  people: readonly LineUpEntry[];
  gathering: Gathering;
  span: Interval | null;
  onChange: (people: readonly LineUpEntry[]) => void;
  /** Where it is, in words. */
  place: { value: string; onChange: (place: string) => void };
}) {
  const me = useMe();
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">People and places</legend>
      {people.length > 0 && (
        <ul className="mb-2">
          {people.map((one) => (
            <Row
              key={one.id}
              asked={one}
              gathering={gathering}
              span={span}
              onRole={(role) =>
                onChange(people.map((other) => (other.id === one.id ? { ...other, role } : other)))
              }
              onRemove={() => onChange(people.filter((other) => other.id !== one.id))}
            />
          ))}
        </ul>
      )}
      <PlaceInWords {...place} />
      <AddMember
        onWords={(words) => place.onChange(words.slice(0, LONGEST_PLACE))}
        onAdd={(fresh) =>
          onChange(
            joined(
              people,
              fresh.filter((one) => one.id !== me.id),
            ),
          )
        }
        there={new Set([me.id, ...people.map((one) => one.id)])}
      />
    </fieldset>
  );
}

/** A place that is no place of Marmot's: words, by which nothing is reserved. */
function PlaceInWords({ value, onChange }: { value: string; onChange: (place: string) => void }) {
  // What is being written stays, also while there is nothing of it.
  const [isWriting, setWriting] = useState(false);
  if (!value && !isWriting) return null;
  return (
    <div className="mb-2 flex flex-wrap items-center gap-x-2 border-t border-edge py-1">
      <input
        aria-label="Where, in words"
        value={value}
        maxLength={LONGEST_PLACE}
        onFocus={() => setWriting(true)}
        onBlur={() => setWriting(false)}
        onChange={(event) => onChange(event.target.value)}
        className="min-w-0 flex-1 rounded-sm border border-transparent bg-transparent px-1 py-1 font-semibold hover:border-edge focus:border-edge focus:bg-sheet max-sm:min-h-11"
      />
      <span className="text-xs text-ink-2">in words: nothing is reserved</span>
      <IconButton label="Leave out where it is" onClick={() => onChange('')}>
        <X size={16} aria-hidden="true" />
      </IconButton>
    </div>
  );
}

function Row({
  asked,
  gathering,
  span,
  onRole,
  onRemove,
}: {
  asked: LineUpEntry;
  gathering: Gathering;
  span: Interval | null;
  onRole: (role: LineUpEntry['role']) => void;
  onRemove: () => void;
}) {
  const me = useMe();
  const member = gathering.members.find((one) => one.id === asked.id);
  const fit = gathering.fits.get(asked.id);
  if (!member) {
    return (
      <li className="flex min-h-9 items-center border-t border-edge text-ink-2">
        {gathering.reading ? 'Reading …' : 'Not there any more'}
      </li>
    );
  }
  const isPerson = member.kind === 'person';
  const where = member.outside
    ? 'outside'
    : isPerson
      ? (me.zoneNames[member.zone] ?? member.detail)
      : member.detail;
  const there =
    span && isPerson && !member.outside && member.zone !== me.zone
      ? `, ${formatTime(span.start, member.zone, me.clock)} there`
      : '';
  return (
    <li className="flex min-h-9 items-center gap-2 border-t border-edge py-1">
      <Initials name={member.name} square={!isPerson} />
      <span className="min-w-0 flex-1 leading-tight">
        <span className="font-medium">{member.name}</span>{' '}
        <span className="text-xs text-ink-2">
          {where}
          {there}
        </span>
        {span && (
          <span
            className={`block text-xs font-semibold ${fit?.state === 'free' ? 'text-lichen-ink' : fit ? 'text-alpenglow' : 'font-normal text-ink-2'}`}
          >
            {fit ? fitWords(fit, member, span, me, gathering.clashes.get(member.id)) : 'reading …'}
          </span>
        )}
      </span>
      {isPerson && (
        <button
          type="button"
          aria-label={`${member.name} is ${asked.role}; make them ${asked.role === 'required' ? 'optional' : 'required'}`}
          onClick={() => onRole(asked.role === 'required' ? 'optional' : 'required')}
          className="min-h-6 rounded-sm px-1 text-xs text-ink-2 underline decoration-dotted underline-offset-3 hover:text-ink max-sm:min-h-11"
        >
          {asked.role}
        </button>
      )}
      <IconButton small label={`Leave ${member.name} out`} onClick={onRemove}>
        <X size={14} aria-hidden="true" />
      </IconButton>
    </li>
  );
}
