import { minus, type Freed } from '../booking/freeing.ts';
import { MINUTE, overlaps, type Interval } from '../time/interval.ts';
import type { BlockerQuestion } from './blockers.ts';
import type { LineUpMember } from './lineUp.ts';
import { openings, rank, type Opening } from './openings.ts';
import { survey } from './survey.ts';
import { NO_SURROUNDINGS } from './wishes.ts';
import { slotStart } from '../availability/slots.ts';

/** A meeting of the asker's own that could make room, with what is known of its people's time. */
export interface OwnMeeting extends Interval {
  eventId: string;
  /** The wall time that names it within its series; null for a single event. */
  recurrenceId: string | null;
  title: string;
  /** Ids of those whose time it takes, the organizer and its resources included. */
  takes: readonly number[];
  /** What of the time of its resources goes without it, and what comes in its place. */
  frees: readonly ({ id: number } & Freed)[];
  /** Its attendees and resources as a line-up of its own. */
  lineUp: readonly LineUpMember[];
}

/** Moving one of one's own meetings: what that opens, and where it can go. */
export interface MeetingMove {
  meeting: OwnMeeting;
  gains: number;
  best: Opening;
  /** The best time for the moved meeting at which everybody of it is free, the new one kept. */
  to: Opening;
}

/**
 * What moving each of one's own meetings would open, the most first. Only those are offered for
 * which another time is found at which all of their own needed people and places are free.
 * @param most how many to return
 */
export function moves(
  question: BlockerQuestion,
  meetings: readonly OwnMeeting[],
  { most = 4 }: { most?: number } = {},
): MeetingMove[] {
  const { members, wishes, surroundings } = question;
  const now = survey(members, wishes, surroundings);
  const before = new Set(now.candidates.map((slot) => slotStart(now.grid, slot)));
  const found: Omit<MeetingMove, 'best' | 'to'>[] = [];
  for (const meeting of meetings) {
    if (meeting.start < wishes.notBefore || !overlaps(meeting, wishes.window)) continue;
    const after = survey(without(members, meeting), wishes, surroundings);
    const gains = after.candidates.length - before.size;
    if (gains > 0) found.push({ meeting, gains });
  }
  found.sort((a, b) => b.gains - a.gains || a.meeting.start - b.meeting.start);
  const offered: MeetingMove[] = [];
  for (const { meeting, gains } of found) {
    if (offered.length >= most) break;
    const freed = without(members, meeting);
    const after = survey(freed, wishes, surroundings);
    const added = (slot: number) => !before.has(slotStart(after.grid, slot));
    const asked = { ...wishes, leastBad: false, limit: 1 };
    const best = rank(after, freed, asked, surroundings, added).best[0];
    const to = best && whereTo(question, meeting, best);
    if (best && to) offered.push({ meeting, gains, best, to });
  }
  return offered;
}

/** Where a meeting can go when another takes its time: free for all of its own line-up. */
function whereTo(
  { members, wishes }: BlockerQuestion,
  meeting: OwnMeeting,
  instead: Opening,
): Opening | null {
  const busyWithNew = new Set(members.filter((one) => !one.setAside).map((one) => one.id));
  const lineUp = without(meeting.lineUp, meeting).map((one) =>
    busyWithNew.has(one.id)
      ? { ...one, busy: withSpan(one.busy, { ...instead, occupancy: 'busy' as const }) }
      : one,
  );
  const asked = {
    ...wishes,
    lengthMinutes: (meeting.end - meeting.start) / MINUTE,
    rule: 'required' as const,
    places: 'listed' as const,
    // What is wished of the new one's part of the day is not wished of this.
    between: null,
    stretches: {},
    stretchMinutes: 0,
    leastBad: false,
    limit: 1,
  };
  // Where it is already is no other place for it.
  const { grid } = survey(lineUp, asked);
  const elsewhere = (slot: number) => slotStart(grid, slot) !== meeting.start;
  return openings(lineUp, asked, NO_SURROUNDINGS, elsewhere).best[0] ?? null;
}

function withSpan(busy: LineUpMember['busy'], span: LineUpMember['busy'][number]) {
  const { start, end, occupancy } = span;
  return [...busy, { start, end, occupancy }].sort((a, b) => a.start - b.start);
}

/**
 * The members as if a meeting were not: one span of exactly its time less for each person whose time it
 * takes; for a resource what is free without it, and nothing that others have or its rules keep.
 */
export function without<Member extends LineUpMember>(
  members: readonly Member[],
  meeting: Pick<OwnMeeting, 'takes' | 'frees' | 'start' | 'end'>,
): Member[] {
  return members.map((member) => {
    if (!meeting.takes.includes(member.id)) return member;
    if (member.kind === 'resource') {
      const freed = meeting.frees.find(({ id }) => id === member.id);
      return freed ? released(member, freed) : member;
    }
    const at = member.busy.findIndex(
      (span) => span.start === meeting.start && span.end === meeting.end,
    );
    return at < 0 ? member : { ...member, busy: member.busy.filter((_, k) => k !== at) };
  });
}

function released<Member extends LineUpMember>(member: Member, { goes, comes }: Freed): Member {
  const taken = member.busy.filter((span) => span.occupancy !== 'barred');
  const barred = member.busy.filter((span) => span.occupancy === 'barred');
  const left = minus(taken, goes.full);
  // What is not known here as it was, as at the edge of what was read, stays taken.
  if (left.length !== taken.length - goes.full.length) return member;
  const more = comes.full.map((span) => ({ ...span, occupancy: 'busy' as const }));
  return {
    ...member,
    busy: [...left, ...more, ...barred].sort((a, b) => a.start - b.start),
    changeovers: [...minus(member.changeovers ?? [], goes.changes), ...comes.changes].sort(
      (a, b) => a.start - b.start,
    ),
  };
}
