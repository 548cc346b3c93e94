import type { WallTime } from '../../core/time/wall.ts';
import { factDetail, type MeetingFact } from '../../core/meetings/meetingFacts.ts';
import { isSeries, occurrenceOf, answerOf, type Meeting } from '../../core/meetings/meeting.ts';
import { nextOccurrence } from '../../core/meetings/next.ts';
import { NOTICED_KINDS, noticesOf } from '../../core/meetings/notices.ts';
import { actorId, actorName, principalIn, type Actor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import type { FactConsumer } from '../facts/index.ts';
import { insertNotifications, type NewNotification } from './queries.ts';
import { MOST_WORDS_TOLD } from './limits.ts';

/**
 * Lets everybody whom facts concern hear of them, each as they chose: one statement, however many they
 * are. What is undone before they looked is taken back.
 * @param meetings as they are now, those that are gone left out
 */
function notify(
  tx: Transaction,
  actor: Actor,
  facts: readonly MeetingFact[],
  meetings: ReadonlyMap<string, Meeting>,
  now: number,
): void {
  const rows = facts.flatMap((fact) => {
    const meeting = meetings.get(fact.meetingId);
    return meeting ? rowsOf(fact, meeting, actor, now) : [];
  });
  const undone = facts.flatMap((fact) => {
    const version = factDetail(fact, 'undone');
    return version === undefined ? [] : [{ event_id: fact.meetingId, version }];
  });
  const answered = facts.flatMap((fact) => {
    if (fact.kind !== 'replied') return [];
    const meeting = meetings.get(fact.meetingId);
    const who = meeting?.participants.find((one) => one.id === fact.details.attendee);
    return who?.personId ? [{ event_id: fact.meetingId, person_id: who.personId }] : [];
  });
  if (rows.length + undone.length + answered.length === 0) return;
  insertNotifications(tx, rows, undone, answered, actorId(actor), now);
}

/** What people hear of, behind the bell or in a letter a day. */
export const newsConsumer: FactConsumer<MeetingFact> = {
  name: 'news',
  kinds: NOTICED_KINDS,
  take: (tx, { clock }, actor, { facts, meetings, gone }) => {
    const present = new Map([...meetings].filter(([id]) => !gone.has(id)));
    notify(tx, actor, facts, present, clock.now());
  },
};

function rowsOf(fact: MeetingFact, meeting: Meeting, actor: Actor, now: number): NewNotification[] {
  const notices = noticesOf(fact, meeting, actorId(actor));
  if (notices.length === 0) return [];
  const moves = fact.kind === 'place-moved' ? fact.details.moves : [];
  const shown = shownOf(meeting, fact.occurrence, moves[0]?.[0] ?? null, now);
  const isBooking = meeting.participants.length === 1;
  const answering = meeting.participants.find((one) => one.id === factDetail(fact, 'attendee'));
  const organizer = meeting.participants.find((one) => one.role === 'organizer')!;
  const isTheirs = fact.kind === 'replied' || fact.kind === 'proposed';
  // Of what becomes of a place the place itself is spoken, and not whoever did it.
  const place = factDetail(fact, 'place');
  const by =
    place !== undefined
      ? place
      : actor.kind === 'person'
        ? isBooking
          ? (actor.by ?? actor.me).name
          : !isTheirs && !actor.by && principalIn(actor, organizer.personId) !== null
            ? `${actor.me.name}, for ${organizer.name}`
            : actorName(actor)
        : isTheirs
          ? (answering?.name ?? '')
          : organizer.name;
  const answer = fact.kind === 'replied' && answering ? answerOf(answering, fact.occurrence) : null;
  const details = {
    title: shown.title,
    start: shown.start,
    end: shown.end,
    allDay: shown.timing.allDay,
    by,
    reply: answer ? answer.reply : null,
    isBooking,
    where: [...new Set(moves.flatMap(([, name]) => name ?? []))].join(', '),
    words: (answer?.note || fact.quoted || fact.message).slice(0, MOST_WORDS_TOLD),
    ...(fact.kind === 'commented' && { comment: fact.details.comment }),
  };
  return notices.map(({ personId, kind }) => ({
    person_id: personId,
    kind,
    what: fact.kind,
    event_id: meeting.id,
    occurrence: fact.occurrence,
    version: meeting.version,
    details: { ...details, mine: personId === meeting.organizerId },
  }));
}

/** The date that news is about: the one it names, else that which begins at an instant, else the next. */
function shownOf(meeting: Meeting, occurrence: WallTime | null, start: number | null, now: number) {
  if (occurrence !== null || start === null || !isSeries(meeting))
    return occurrenceOf(meeting, occurrence ?? nextOccurrence(meeting, now));
  const moved = meeting.overrides.find(
    ({ recurrenceId }) => occurrenceOf(meeting, recurrenceId).start === start,
  );
  return occurrenceOf(meeting, moved?.recurrenceId ?? nextOccurrence(meeting, now));
}
