import { Command } from 'cmdk';
import { useState } from 'react';
import type { Found } from '../../contract/search.ts';
import { formatTime } from '../../core/time/format.ts';
import { useChosenEntry, useFound, valueOf } from '../app/useFound.ts';
import { Choice, PartHeading } from '../design/controls.tsx';
import type { Member, Plan } from './usePlan.ts';

/** Who and what the meeting needs: added by a part of a name, required or optional, set aside for a moment. */
export function LineUpPanel({ plan }: { plan: Plan }) {
  const { members, lineUp, setLineUp, wishes, set } = plan;
  const people = members.filter((member) => member.kind === 'person').length;
  const places = members.length - people;
  const change = (id: number, part: Partial<(typeof lineUp)[number]>) =>
    setLineUp(lineUp.map((one) => (one.id === id ? { ...one, ...part } : one)));
  return (
    <section aria-label="Line-up">
      <PartHeading
        remark={`${people} ${people === 1 ? 'person' : 'people'}${places ? `, ${places} ${places === 1 ? 'place' : 'places'}` : ''}`}
      >
        Line-up
      </PartHeading>
      <ul>
        {members.map((member) => (
          <MemberRow
            key={member.id}
            member={member}
            plan={plan}
            onChange={(part) => change(member.id, part)}
            onRemove={() => setLineUp(lineUp.filter((one) => one.id !== member.id))}
          />
        ))}
      </ul>
      <AddField
        onAdd={(found) => {
          const ids = found.kind === 'team' ? found.memberIds : [found.id];
          const fresh = ids.filter((id) => !lineUp.some((one) => one.id === id));
          setLineUp([
            ...lineUp,
            ...fresh.map((id) => ({ id, role: 'required' as const, setAside: false })),
          ]);
        }}
      />
      <div className="mt-5 grid gap-2">
        <PartHeading>What counts</PartHeading>
        <Choice
          aria-label="Whose conflicts exclude a time"
          value={wishes.rule}
          onChange={(event) => set({ rule: event.target.value })}
        >
          <option value="required">Required people, places</option>
          <option value="everyone">Everyone, optional ones too</option>
        </Choice>
        <Choice
          aria-label="How far outside working hours"
          value={wishes.stretchMinutes}
          onChange={(event) => set({ stretch: event.target.value })}
        >
          {[...new Set([0, 60, 120, 180, wishes.stretchMinutes])]
            .sort((a, b) => a - b)
            .map((minutes) => (
              <option key={minutes} value={minutes}>
                {minutes === 0 ? 'Within working hours' : `${minutes} min outside hours`}
              </option>
            ))}
        </Choice>
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={wishes.tentativeIsFree}
            onChange={(event) => set({ tentative: event.target.checked ? 'free' : null })}
          />
          Tentative time may be used
        </label>
      </div>
    </section>
  );
}

function MemberRow({
  member,
  plan,
  onChange,
  onRemove,
}: {
  member: Member;
  plan: Plan;
  onChange: (part: { role?: Member['role']; setAside?: boolean }) => void;
  onRemove: () => void;
}) {
  const me = plan.me;
  const mine = member.id === me.id;
  const small = 'text-xs font-semibold text-gentian hover:underline';
  return (
    <li className="border-t border-edge py-1.5 first:border-0">
      <div className="flex justify-between gap-2">
        <span className={`font-medium ${member.setAside ? 'text-ink-2 line-through' : ''}`}>
          {member.name}
        </span>
        {member.kind === 'person' && (
          <span title="Their time now">{formatTime(plan.now, member.zone, me.clock)}</span>
        )}
      </div>
      <div className="flex flex-wrap justify-between gap-x-2">
        <span className="text-xs text-ink-2">
          {member.detail}
          {mine
            ? ', organizer'
            : member.kind === 'person' && member.role === 'optional'
              ? ', optional'
              : ''}
          {member.setAside ? ', set aside' : ''}
          {member.knowledge === 'none' && <span className="block">shares nothing with you</span>}
        </span>
        {!mine && (
          <span className="flex gap-2.5">
            {member.kind === 'person' && (
              <button
                type="button"
                className={small}
                onClick={() =>
                  onChange({ role: member.role === 'required' ? 'optional' : 'required' })
                }
                aria-label={`Make ${member.name} ${member.role === 'required' ? 'optional' : 'required'}`}
              >
                {member.role === 'required' ? 'optional' : 'required'}
              </button>
            )}
            <button
              type="button"
              className={small}
              aria-pressed={member.setAside}
              onClick={() => onChange({ setAside: !member.setAside })}
              aria-label={`${member.setAside ? 'Bring back' : 'Set aside'} ${member.name}`}
            >
              {member.setAside ? 'back' : 'aside'}
            </button>
            <button
              type="button"
              className={small}
              onClick={onRemove}
              aria-label={`Remove ${member.name}`}
            >
              remove
            </button>
          </span>
        )}
      </div>
    </li>
  );
}

function AddField({ onAdd }: { onAdd: (found: Found) => void }) {
  const [text, setText] = useState('');
  const { found, searching } = useFound(text);
  const [chosen, setChosen] = useChosenEntry(found);
  return (
    <Command
      shouldFilter={false}
      value={chosen}
      onValueChange={setChosen}
      label="Add a person, team or place"
      className="relative mt-2"
    >
      <Command.Input
        value={text}
        onValueChange={setText}
        placeholder="Add a person, team or place"
        className="w-full rounded-sm border border-edge bg-sheet px-2.5 py-1.5 placeholder:text-ink-2"
      />
      <Command.List
        hidden={text.trim() === ''}
        className="absolute inset-x-0 top-full z-30 mt-1 max-h-72 min-w-72 overflow-y-auto rounded-sm border border-edge bg-sheet p-1.5 shadow-lg"
      >
        {found.map((one) => (
          <Command.Item
            key={`${one.kind}${one.id}`}
            value={valueOf(one)}
            onSelect={() => {
              onAdd(one);
              setText('');
            }}
            className="flex cursor-pointer justify-between gap-3 rounded-sm px-2.5 py-1.5 data-[selected=true]:bg-gentian-wash"
          >
            <span className="font-medium">{one.name}</span>
            <span className="text-right text-ink-2">{one.detail}</span>
          </Command.Item>
        ))}
        {found.length === 0 && (
          <p className="px-2.5 py-1.5 text-ink-2">
            {searching ? 'Looking …' : `Nobody and nothing begins with “${text}”.`}
          </p>
        )}
      </Command.List>
    </Command>
  );
}
