import { z } from 'zod';
import type { FitState } from '../core/planner/fit.ts';
import { subjectId, text, wallTime, zone } from './common.ts';
import { limit } from './paging.ts';
import type { CalendarItem, EventDetail, Reply } from './eventDetail.ts';

export type { Reply } from './eventDetail.ts';

export const replyRequest = z.strictObject({
  reply: z.enum(['accepted', 'tentative', 'declined'], {
    error: 'must be "accepted", "tentative" or "declined"',
  }),
  note: text(2000).default(''),
  /** Somebody for whom I act; without it, I answer for myself. */
  for: subjectId.optional(),
  /** Only this occurrence of a series; without it, all of it. */
  occurrence: wallTime.optional(),
  /** Whether the organizer hears of it; they see it in Replies in any case. */
  tell: z.boolean({ error: 'must be true or false' }).default(true),
});
export type ReplyRequest = z.input<typeof replyRequest>;

/** An invitation that waits for my answer. */
export interface WaitingInvitation {
  eventId: string;
  /** The occurrence that is asked about by itself; null for all of it. */
  occurrence: string | null;
  title: string;
  organizer: string;
  /** Whose answer it waits for, where I act for them; null where it is mine. */
  for: { id: number; name: string } | null;
  start: number;
  end: number;
  allDay: boolean;
  invitedAt: number;
  role: 'required' | 'optional';
  /** Whether an answer to all of it is one to a series. */
  recurring: boolean;
  /** What I already have at that time, the first few of it, by start. */
  conflicts: { title: string; start: number; end: number }[];
  /** How all its dates fit, where an answer to it is one to a series. */
  dates: DatesFit | null;
}

/** How the dates of a series to come fit what somebody has. */
export interface DatesFit {
  /** Dates looked at: those to come, at most so many as are looked at at once. */
  count: number;
  fitting: number;
  /** The first few on which something else is on, by start. */
  collisions: { start: number; title: string }[];
}

export interface InvitationDetail {
  event: EventDetail;
  myReply: Reply;
  myNote: string;
  /** My own day around the proposed time, without the meeting itself. */
  day: CalendarItem[];
  dayStart: number;
  dayEnd: number;
  /** What overlaps the meeting, and what ends or begins within a quarter hour of it. */
  conflicts: { title: string; start: number; end: number; kind: 'overlap' | 'near' }[];
  /** What I have last before it and first after it on that day; null where there is nothing. */
  before: Beside | null;
  after: Beside | null;
  /** How all its dates fit; null for a meeting that happens once. */
  dates: DatesFit | null;
  /** What the organizer last wrote to those who are invited. */
  message: string | null;
}

/** Days on which another time could be, with how many are free. */
export interface DaysAround {
  days: {
    /** `YYYY-MM-DD` on the reader's clock, and when it begins. Epoch milliseconds. */
    date: string;
    start: number;
    /** How many are free in each quarter hour of it; null where that is not shown. */
    counts: number[] | null;
  }[];
  /** Of how many. */
  total: number;
}

/** What happened about the answers to a meeting, the latest first. */
export interface AnswerHistory {
  entries: {
    at: number;
    attendeeId: number;
    name: string;
    /** Whoever did it, where they acted for them. */
    by: string | null;
    what: 'invited' | 'replied' | 'nudged' | 'proposed' | 'proposal-declined';
    /** What was answered. */
    reply: Reply | null;
    /** The date of a series that it was about; null for all of it. */
    occurrence: string | null;
  }[];
}

const whom = z.coerce.number().pipe(subjectId).optional();

export const invitationQuery = z.strictObject({
  occurrence: wallTime.optional(),
  /** Somebody for whom I act, whose invitation it is; without it, it is mine. */
  for: whom,
});

export const daysQuery = z.strictObject({
  zone,
  /** The first day. */
  from: z.iso.date('must be a date such as 2026-11-24').optional(),
  occurrence: wallTime.optional(),
  /** Somebody for whom I act. */
  for: whom,
});
export type DaysQuery = z.output<typeof daysQuery>;

/** The present time of a meeting, those that are asked for, and Plan's best, side by side. */
export interface OtherTimes {
  eventId: string;
  version: number;
  /** The date of a series that is meant. */
  occurrence: string | null;
  /** Further dates of the series for which other times are asked. */
  otherDates: string[];
  people: { key: string; name: string }[];
  places: { id: number; name: string }[];
  rows: OtherTime[];
}

export interface OtherTime {
  kind: 'present' | 'asked' | 'best';
  start: number;
  end: number;
  /** Who asks for it. */
  from: { attendeeId: number; name: string; note: string }[];
  /** How each of the people fits, in their order. */
  states: FitState[];
  /** For each place: free, taken, or another one that is had in its place. */
  places: ('free' | 'taken' | 'barred' | { instead: { id: number; name: string } })[];
  /** How many of the people could come, by what Plan asks of a time. */
  couldCome: number;
  /** Whether it is the best of those that can be had, as Plan weighs them. */
  isBest: boolean;
  /** What it costs, in words; empty for the present time. */
  reasons: string[];
}

/** Something of mine beside a meeting. */
export interface Beside {
  title: string;
  start: number;
  end: number;
  place: string;
  /** The way from there to the meeting, or from the meeting there, where both are in places. */
  way: string | null;
}

/** Invitations that wait for me, by start. */
export interface News {
  waiting: WaitingInvitation[];
}

export const repliesQuery = z.strictObject({
  /** Of one meeting alone. */
  event: z.uuid('must be the id of an event').optional(),
  /** The id of the last meeting that is there already. */
  after: z.uuid('must be the id of an event').optional(),
  limit,
});
export type RepliesQuery = z.output<typeof repliesQuery>;

export interface RepliesList {
  meetings: MeetingReplies[];
  total: number;
  /** Of all of them, how many wait for answers, and how many need me; those come first. */
  waiting: number;
  needing: number;
  /** Those that are not sent yet, the soonest first. */
  drafts: DraftMeeting[];
}

/** A meeting of mine that is not sent yet, with its next occurrence. */
export interface DraftMeeting {
  /** The event's. */
  id: string;
  title: string;
  start: number;
  end: number;
  allDay: boolean;
  /** Whether it holds my time and its places meanwhile. */
  holds: boolean;
  /** How many it will ask. */
  toAsk: number;
}

/** One meeting I organize, with who has answered what. */
export interface MeetingReplies {
  /** The event's. */
  id: string;
  title: string;
  /** Who organizes it, where I act for them; null where I do. */
  for: string | null;
  start: number;
  end: number;
  allDay: boolean;
  recurring: boolean;
  /** How many answers by mail were put aside, to be looked at. */
  aside: number;
  replies: {
    attendeeId: number;
    /** Null of people outside. */
    personId: number | null;
    name: string;
    email: string;
    role: 'required' | 'optional';
    reply: Reply;
    note: string;
    invitedAt: number;
    repliedAt: number | null;
    nudgedAt: number | null;
    /** What a machine of theirs answered by itself, such as that they are away; null for nothing. */
    automatic: string | null;
    /** How many other times they ask for. */
    proposals: number;
    /** Why the last letter to them did not reach them; null as far as is known that it did. */
    undelivered: string | null;
  }[];
  /** Answers to single dates to come that differ from the answer to the series, by start. */
  dates: {
    attendeeId: number;
    name: string;
    occurrence: string;
    start: number;
    reply: Reply;
    note: string;
    repliedAt: number | null;
  }[];
}
