import { holidayInWords } from '../../core/time/dayOffWords.ts';
import { useMutation } from '@tanstack/react-query';
import { memo, useRef, useState, type KeyboardEvent } from 'react';
import { dateAt, weekdayOf } from '../../core/time/wall.ts';
import { formatTime, type ClockStyle } from '../../core/time/format.ts';
import { MINUTE } from '../../core/time/interval.ts';
import { workingIntervals } from '../../core/time/workingHours.ts';
import { zoneTable } from '../../core/time/zoneTable.ts';
import { callApi, errorText, useChanged, useStable } from '../client/index.ts';
import { PartHeading } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { drawnAlike } from './drawnAlike.ts';
import { AddMember, joined, type LineUpEntry, type Member } from '../lineUp/index.ts';
import { RememberLineUp } from './RememberLineUp.tsx';
import type { Plan } from './usePlan.ts';

/** Who and what the meeting needs: required or optional, set aside for a moment, removed. */
export const LineUpPanel = memo(function LineUpPanel({
  plan: { members, lineUp, setLineUp, me, now, moving },
}: {
  plan: Pick<Plan, 'members' | 'lineUp' | 'setLineUp' | 'me' | 'now' | 'moving'>;
}) {
  const list = useRef<HTMLUListElement>(null);
  // One row of them is a stop of the Tab key; arrows go from row to row.
  const [active, setActive] = useState(me.id);
  const stop = members.some((one) => one.id === active) ? active : members[0]?.id;
  const people = members.filter((member) => member.kind === 'person').length;
  const places = members.length - people;
  const stable = useStable({
    change: (id: number, part: Partial<LineUpEntry>) =>
      setLineUp(lineUp.map((one) => (one.id === id ? { ...one, ...part } : one))),
    remove: (id: number) => setLineUp(lineUp.filter((one) => one.id !== id)),
    activate: setActive,
  });
  const add = (fresh: readonly LineUpEntry[]) => setLineUp(joined(lineUp, fresh));
  /** Up and down go from one to the next. */
  const go = (event: KeyboardEvent) => {
    const by = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    const rows = [...(list.current?.querySelectorAll<HTMLElement>('[data-member]') ?? [])];
    const at = rows.indexOf(event.target as HTMLElement);
    if (by === undefined || at < 0) return;
    event.preventDefault();
    rows[at + by]?.focus();
  };
  return (
    <section aria-label="Line-up">
      <PartHeading
        remark={`${people} ${people === 1 ? 'person' : 'people'}${places ? `, ${places} ${places === 1 ? 'place' : 'places'}` : ''}`}
      >
        Line-up
      </PartHeading>
      <ul ref={list} onKeyDown={go}>
        {members.map((member) => (
          <MemberRow
            key={member.id}
            member={member}
            mine={member.id === me.id}
            active={member.id === stop}
            minute={Math.floor(now / MINUTE)}
            clock={me.clock}
            change={stable.change}
            remove={stable.remove}
            activate={stable.activate}
          />
        ))}
      </ul>
      <div className="mt-2">
        <AddMember onAdd={add} there={new Set(lineUp.map((one) => one.id))} />
      </div>
      {!moving && <RememberLineUp lineUp={lineUp.filter((one) => one.id !== me.id)} onAdd={add} />}
    </section>
  );
}, drawnAlike);

const SMALL = 'text-xs font-semibold text-gentian hover:underline';

const MemberRow = memo(function MemberRow({
  member,
  mine,
  active,
  minute,
  clock,
  change,
  remove,
  activate,
}: {
  member: Member;
  mine: boolean;
  /** Whether Tab stops here. */
  active: boolean;
  /** The present minute since 1970. */
  minute: number;
  clock: ClockStyle;
  change: (id: number, part: Partial<LineUpEntry>) => void;
  remove: (id: number) => void;
  activate: (id: number) => void;
}) {
  const now = minute * MINUTE;
  const person = member.kind === 'person';
  const aside = () => change(member.id, { setAside: !member.setAside });
  const optional = () =>
    change(member.id, { role: member.role === 'required' ? 'optional' : 'required' });
  const keys = (event: KeyboardEvent) => {
    if (mine || event.target !== event.currentTarget) return;
    if (event.key === ' ' || event.key === 'x') aside();
    else if (event.key === 'o' && person) optional();
    else if (event.key === 'Delete') remove(member.id);
    else return;
    event.preventDefault();
  };
  const today = person && !member.outside ? hoursToday(member, now, clock) : null;
  const state = [
    member.detail,
    today,
    mine ? 'organizer' : person && member.role === 'optional' ? 'optional' : '',
    member.setAside ? 'set aside' : '',
  ].filter(Boolean);
  return (
    <li
      data-member={member.id}
      tabIndex={active ? 0 : -1}
      onFocus={() => activate(member.id)}
      onKeyDown={keys}
      className="group relative border-t border-edge py-1 first:border-0"
    >
      <div className="flex justify-between gap-2">
        <span
          className={`min-w-0 truncate font-medium ${member.setAside ? 'text-ink-2 line-through' : ''}`}
        >
          {member.name}
        </span>
        {person && !member.outside && (
          <span title="Their time now">{formatTime(now, member.zone, clock)}</span>
        )}
      </div>
      <p className="text-xs text-ink-2">
        {state.join(', ')}
        {member.knowledge === 'none' && !member.outside && (
          <span className="block">nothing is known of their time</span>
        )}
        {member.published && <PublishedAge id={member.id} published={member.published} now={now} />}
      </p>
      {!mine && (
        <span className="right-0 bottom-0.5 flex gap-2.5 whitespace-nowrap bg-paper pl-2 group-focus-within:opacity-100 group-hover:opacity-100 pointer-fine:absolute pointer-fine:opacity-0 max-lg:pl-0">
          {person && (
            <button
              type="button"
              tabIndex={active ? 0 : -1}
              className={SMALL}
              onClick={optional}
              aria-label={`Make ${member.name} ${member.role === 'required' ? 'optional' : 'required'}`}
            >
              {member.role === 'required' ? 'optional' : 'required'}
            </button>
          )}
          <button
            type="button"
            tabIndex={active ? 0 : -1}
            className={SMALL}
            aria-pressed={member.setAside}
            onClick={aside}
            aria-label={`${member.setAside ? 'Bring back' : 'Set aside'} ${member.name}`}
          >
            {member.setAside ? 'bring back' : 'set aside'}
          </button>
          <button
            type="button"
            tabIndex={active ? 0 : -1}
            className={SMALL}
            onClick={() => remove(member.id)}
            aria-label={`Remove ${member.name}`}
          >
            remove
          </button>
        </span>
      )}
    </li>
  );
});

/** `08:00–16:30`, or that they do not work today, with whether that is now. */
function hoursToday(member: Member, now: number, clock: ClockStyle): string {
  const date = dateAt(now, member.zone);
  const holiday = member.holidays?.find((one) => one.date === date);
  if (holiday) return holidayInWords(holiday, clock);
  const shifts = member.hours?.[weekdayOf(date) - 1] ?? [];
  const moment = { start: now, end: now + MINUTE };
  const working =
    !!member.hours &&
    workingIntervals(member.hours, zoneTable(member.zone, moment), moment).length > 0;
  if (shifts.length === 0) return working ? 'at work' : 'off today';
  // Minutes after midnight on their own clock.
  const at = (minutes: number) => formatTime(minutes * MINUTE, 'UTC', clock);
  const text = shifts.map(({ start, end }) => `${at(start)}–${at(end)}`).join(', ');
  return working ? text : `${text}, off now`;
}

function PublishedAge({
  id,
  published,
  now,
}: {
  id: number;
  published: NonNullable<Member['published']>;
  now: number;
}) {
  const minutes = published.readAt === null ? null : Math.round((now - published.readAt) / MINUTE);
  const age =
    minutes === null
      ? 'not read yet'
      : minutes < 1
        ? 'read just now'
        : minutes < 120
          ? `read ${minutes} min ago`
          : `read ${Math.round(minutes / 60)} h ago`;
  const changed = useChanged();
  const refresh = useMutation({
    mutationFn: () => callApi('POST /api/availability/refresh', { body: { people: [id] } }),
    onSuccess: () => changed('calendar'),
    onError: (error) => tellUser(errorText(error)),
  });
  return (
    <span className={`block ${published.failing ? 'text-alpenglow' : ''}`}>
      shares busy times only, {refresh.isPending ? 'reading …' : age}
      {published.failing ? '; cannot be read now' : ''}{' '}
      <button
        type="button"
        className="font-semibold text-gentian hover:underline"
        disabled={refresh.isPending}
        onClick={() => refresh.mutate()}
      >
        Read again
      </button>
    </span>
  );
}
