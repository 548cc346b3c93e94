import { useState } from 'react';
import { termInWords } from '../../core/booking/ruleWords.ts';
import { brokenTerms } from '../../core/booking/terms.ts';
import { isFreeFor } from '../../core/planner/rooms.ts';
import type { RoomCandidate } from '../../core/planner/wishes.ts';
import { formatDay, formatNear, formatTime } from '../../core/time/format.ts';
import { overlaps } from '../../core/time/interval.ts';
import { PartHeading, TextInput } from '../design/controls.tsx';
import type { Plan } from './usePlan.ts';

/** A room at the chosen time, which may be taken into the line-up. */
type Taking = Pick<Plan, 'me' | 'chosen' | 'lineUp' | 'setLineUp'>;

/** Rooms for the chosen time: by site, with seats against the people there, and what is taken until when. */
export function RoomsPanel({
  plan,
}: {
  plan: Taking & Pick<Plan, 'members' | 'data' | 'isChosenRead'>;
}) {
  const { members, data, chosen, me } = plan;
  const [text, setText] = useState('');
  const people = members.filter((one) => one.kind === 'person' && !one.setAside);
  const sites = [...new Set(people.flatMap((one) => one.siteId ?? []))].filter((siteId) =>
    data.rooms.some((room) => room.siteId === siteId),
  );
  if (sites.length === 0) {
    return <p className="text-ink-2">No room is known where the people of the line-up work.</p>;
  }
  if (chosen && !plan.isChosenRead) {
    return (
      <p className="text-ink-2" role="status">
        Reading the rooms …
      </p>
    );
  }
  const wanted = text.trim().toLowerCase();
  return (
    <section aria-label="Rooms">
      <PartHeading
        remark={
          chosen
            ? `${formatDay(chosen.start, me.zone)} ${formatTime(chosen.start, me.zone, me.clock)}`
            : 'choose a time first'
        }
      >
        Rooms
      </PartHeading>
      <TextInput
        aria-label="Find a room by name, feature or floor"
        placeholder="A name, a feature, a floor"
        className="mb-2 w-full py-1"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {sites.map((siteId) => (
        <Site
          key={siteId}
          plan={plan}
          rooms={data.rooms.filter(
            (room) =>
              room.siteId === siteId &&
              [room.name, ...room.features, `floor ${room.floor}`].some((one) =>
                one.toLowerCase().includes(wanted),
              ),
          )}
          all={data.rooms.filter((room) => room.siteId === siteId)}
          people={people.filter((one) => one.siteId === siteId).length}
        />
      ))}
    </section>
  );
}

function Site({
  plan,
  rooms,
  all,
  people,
}: {
  plan: Taking;
  rooms: readonly RoomCandidate[];
  all: readonly RoomCandidate[];
  people: number;
}) {
  const { chosen } = plan;
  const free = (room: RoomCandidate) => chosen !== null && isFreeFor(room, chosen);
  const ordered = [...rooms].sort(
    (a, b) =>
      Number(free(b)) - Number(free(a)) ||
      Number(b.seats >= people) - Number(a.seats >= people) ||
      a.seats - b.seats,
  );
  return (
    <div className="mb-3">
      <p className="text-xs font-semibold">
        {all[0]!.site}, {people === 1 ? '1 person' : `${people} people`} there
      </p>
      {ordered.length === 0 && (
        <p className="text-xs text-ink-2">
          None of the {all.length} rooms here is like that; clear the field to see them.
        </p>
      )}
      <ul>
        {ordered.map((room) => (
          <RoomLine key={room.id} room={room} plan={plan} small={room.seats < people} />
        ))}
      </ul>
    </div>
  );
}

function RoomLine({ room, plan, small }: { room: RoomCandidate; plan: Taking; small: boolean }) {
  const { lineUp, setLineUp, me, chosen } = plan;
  const listed = lineUp.some((one) => one.id === room.id);
  const isBarred = chosen && room.barred?.some((span) => overlaps(span, chosen));
  const taken = chosen && room.busy.find((span) => overlaps(span, chosen));
  const [broken] = chosen && room.terms ? brokenTerms(room.terms, chosen) : [];
  const isFree = !taken && !broken;
  const toggle = () =>
    setLineUp(
      listed
        ? lineUp.filter((one) => one.id !== room.id)
        : [...lineUp, { id: room.id, role: 'required', setAside: false }],
    );
  return (
    <li className="flex items-baseline gap-2 border-t border-edge py-1 text-xs">
      <span className="min-w-0 flex-1">
        <b className={`text-[13px] font-semibold ${isFree ? '' : 'text-ink-2'}`}>{room.name}</b>{' '}
        <span className={`font-medium ${isFree ? 'text-lichen-ink' : 'text-alpenglow'}`}>
          {chosen === null
            ? ''
            : isBarred
              ? 'cannot be booked then'
              : taken
                ? `taken until ${formatNear(taken.end, chosen.start, me)}`
                : broken
                  ? termInWords(broken)
                  : 'free'}
        </span>
        <span className="block text-ink-2">
          floor {room.floor}, {room.seats} seats
          {small && <span className="font-medium text-alpenglow">, too few</span>}
          {room.features.length > 0 && `, ${room.features.join(', ')}`}
        </span>
      </span>
      <button
        type="button"
        className="font-semibold text-gentian hover:underline"
        aria-pressed={listed}
        aria-label={listed ? `Leave ${room.name} out` : `Take ${room.name}`}
        onClick={toggle}
      >
        {listed ? 'leave it out' : 'take it'}
      </button>
    </li>
  );
}
