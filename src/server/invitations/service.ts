import type { CalendarItem, EventDetail } from '../../contract/eventDetail.ts';
import type { Beside, InvitationDetail } from '../../contract/invitations.ts';
import { closeness } from '../../core/availability/conflicts.ts';
import { neighbours, wayBetween } from '../../core/availability/way.ts';
import { Refusal } from '../../core/refusal.ts';
import { HOUR } from '../../core/time/interval.ts';
import { addDays, dateAt, startOfDay, type WallTime } from '../../core/time/wall.ts';
import type { PersonActor } from '../actions/index.ts';
import { readCalendar } from '../calendar/index.ts';
import type { Database } from '../db/transaction.ts';
import { readDetail } from '../events/index.ts';
import { readDatesFit, latestMessage, spotsOf } from './queries.ts';

/**
 * An invitation beside the invitee's own day, conflicts and near misses named.
 * @throws Refusal when there is none, or the asker is not invited
 */
export async function invitation(
  db: Database,
  actor: PersonActor,
  eventId: string,
  now: number,
  at?: WallTime,
): Promise<InvitationDetail> {
  const { me } = actor;
  const event = await readDetail(db, actor, eventId, { at, now });
  const mine = event.attendees.find((attendee) => attendee.personId === me.id);
  if (!mine) throw new Refusal('not-invited', 'You are not invited to this meeting.');
  const date = dateAt(event.start, me.zone);
  const lastDate = dateAt(event.end - 1, me.zone);
  const dayStart = startOfDay(date, me.zone);
  const dayEnd = startOfDay(addDays(lastDate, 1), me.zone);
  const around = await readCalendar(db, me.id, dayStart - HOUR, dayEnd + HOUR);
  const others = around.filter((item) => item.eventId !== eventId);
  const conflicts = others.flatMap((item) => {
    const kind = item.occupancy === 'free' ? null : closeness(item, event);
    return kind ? [{ title: item.title, start: item.start, end: item.end, kind }] : [];
  });
  return {
    event,
    myReply: mine.reply,
    myNote: mine.note,
    day: others.filter((item) => item.start < dayEnd && item.end > dayStart),
    dayStart,
    dayEnd,
    ...(await besides(db, others, event)),
    dates: event.series ? await readDatesFit(db, eventId, me.id, now) : null,
    message: await latestMessage(db, eventId, String(me.id)),
    conflicts: conflicts.sort(
      (a, b) => Number(b.kind === 'overlap') - Number(a.kind === 'overlap'),
    ),
  };
}

/** What is before and after a meeting, with the way between its place and theirs. */
async function besides(
  db: Database,
  others: readonly CalendarItem[],
  event: EventDetail,
): Promise<Pick<InvitationDetail, 'before' | 'after'>> {
  const { before, after } = neighbours(others, event);
  const spots = await spotsOf(
    db,
    [before, after].flatMap((item) => item?.occurrenceId ?? []),
    event.resources.map((one) => one.id),
  );
  const [here] = spots.get(null) ?? [];
  const beside = (item: CalendarItem | null, toMeeting: boolean): Beside | null => {
    if (!item) return null;
    const [there] = spots.get(item.occurrenceId) ?? [];
    return {
      title: item.title,
      start: item.start,
      end: item.end,
      place: [item.place, ...item.resources].filter(Boolean).join(', '),
      way: here && there ? (toMeeting ? wayBetween(there, here) : wayBetween(here, there)) : null,
    };
  };
  return { before: beside(before, true), after: beside(after, false) };
}
