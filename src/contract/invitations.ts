import { z } from 'zod';
import { subjectId, text, wallTime, zone } from './common.ts';
import { limit } from './paging.ts';
import { eventDetail, calendarItem, changedEvent } from './eventDetail.ts';
import { reply, fitState } from './values.ts';
import { proposeRequest, takeTimeRequest } from './asking.ts';
import { eventPath, eventQuery } from './events.ts';
import { defineRoutes } from './route.ts';

export type { Reply } from './eventDetail.ts';

/** An answer, by whoever gives it. */
export const givenAnswer = z.enum(['accepted', 'tentative', 'declined'], {
  error: 'must be "accepted", "tentative" or "declined"',
});

export const replyRequest = z.strictObject({
  /** `needs-action` takes an answer back, as if none had been given. */
  reply: z.enum(['accepted', 'tentative', 'declined', 'needs-action'], {
    error: 'must be "accepted", "tentative", "declined" or "needs-action"',
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

/** How the dates of a series to come fit what somebody has. */
export const datesFit = z.strictObject({
  /** Dates looked at: those to come, at most so many as are looked at at once. */
  count: z.int(),
  fitting: z.int(),
  /** The first few on which something else is on, by start. */
  collisions: z.array(
    z.strictObject({
      start: z.int(),
      title: z.string(),
    }),
  ),
});
export type DatesFit = z.output<typeof datesFit>;

/** An invitation that waits for my answer. */
export const waitingInvitation = z.strictObject({
  eventId: z.uuid(),
  /** The occurrence that is asked about by itself; null for all of it. */
  occurrence: z.string().nullable(),
  title: z.string(),
  organizer: z.string(),
  /** Whose answer it waits for, where I act for them; null where it is mine. */
  for: z
    .strictObject({
      id: z.int(),
      name: z.string(),
    })
    .nullable(),
  start: z.int(),
  end: z.int(),
  allDay: z.boolean(),
  invitedAt: z.int(),
  role: z.enum(['required', 'optional']),
  /** Whether an answer to all of it is one to a series. */
  recurring: z.boolean(),
  /** What I already have at that time, the first few of it, by start. */
  conflicts: z.array(
    z.strictObject({
      title: z.string(),
      start: z.int(),
      end: z.int(),
    }),
  ),
  /** How all its dates fit, where an answer to it is one to a series. */
  dates: datesFit.nullable(),
});
export type WaitingInvitation = z.output<typeof waitingInvitation>;

/** Something of mine beside a meeting. */
export const beside = z.strictObject({
  title: z.string(),
  start: z.int(),
  end: z.int(),
  place: z.string(),
  /** The way from there to the meeting, or from the meeting there, where both are in places. */
  way: z.string().nullable(),
});
export type Beside = z.output<typeof beside>;

export const invitationDetail = z.strictObject({
  event: eventDetail,
  myReply: reply,
  myNote: z.string(),
  /** My own day around the proposed time, without the meeting itself. */
  day: z.array(calendarItem),
  dayStart: z.int(),
  dayEnd: z.int(),
  /** What overlaps the meeting, and what ends or begins within a quarter hour of it. */
  conflicts: z.array(
    z.strictObject({
      title: z.string(),
      start: z.int(),
      end: z.int(),
      kind: z.enum(['overlap', 'near']),
    }),
  ),
  /** What I have last before it and first after it on that day; null where there is nothing. */
  before: beside.nullable(),
  after: beside.nullable(),
  /** How all its dates fit; null for a meeting that happens once. */
  dates: datesFit.nullable(),
  /** What the organizer last wrote to those who are invited. */
  message: z.string().nullable(),
});
export type InvitationDetail = z.output<typeof invitationDetail>;

/** Days on which another time could be, with how many are free. */
export const daysAround = z.strictObject({
  days: z.array(
    z.strictObject({
      /** `YYYY-MM-DD` on the reader's clock, and when it begins. Epoch milliseconds. */
      date: z.string(),
      start: z.int(),
      /** How many are free in each quarter hour of it; null where that is not shown. */
      counts: z.array(z.int()).nullable(),
    }),
  ),
  /** Of how many. */
  total: z.int(),
});
export type DaysAround = z.output<typeof daysAround>;

/** What happened about the answers to a meeting, the latest first. */
export const answerHistory = z.strictObject({
  entries: z.array(
    z.strictObject({
      at: z.int(),
      attendeeId: z.int(),
      name: z.string(),
      /** Whoever did it, where they acted for them. */
      by: z.string().nullable(),
      what: z.enum(['invited', 'replied', 'nudged', 'proposed', 'proposal-declined']),
      /** What was answered. */
      reply: reply.nullable(),
      /** The date of a series that it was about; null for all of it. */
      occurrence: z.string().nullable(),
    }),
  ),
});
export type AnswerHistory = z.output<typeof answerHistory>;

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

export const otherTime = z.strictObject({
  kind: z.enum(['present', 'asked', 'best']),
  start: z.int(),
  end: z.int(),
  /** Who asks for it. */
  from: z.array(
    z.strictObject({
      attendeeId: z.int(),
      name: z.string(),
      note: z.string(),
    }),
  ),
  /** How each of the people fits, in their order. */
  states: z.array(fitState),
  /** For each place: free, taken, or another one that is had in its place. */
  places: z.array(
    z.union([
      z.literal('free'),
      z.literal('taken'),
      z.literal('barred'),
      z.strictObject({
        instead: z.strictObject({
          id: z.int(),
          name: z.string(),
        }),
      }),
    ]),
  ),
  /** How many of the people could come, by what Plan asks of a time. */
  couldCome: z.int(),
  /** Whether it is the best of those that can be had, as Plan weighs them. */
  isBest: z.boolean(),
  /** What it costs, in words; empty for the present time. */
  reasons: z.array(z.string()),
});
export type OtherTime = z.output<typeof otherTime>;

/** The present time of a meeting, those that are asked for, and Plan's best, side by side. */
export const otherTimes = z.strictObject({
  eventId: z.uuid(),
  version: z.int(),
  /** The date of a series that is meant. */
  occurrence: z.string().nullable(),
  /** Further dates of the series for which other times are asked. */
  otherDates: z.array(z.string()),
  people: z.array(
    z.strictObject({
      key: z.string(),
      name: z.string(),
    }),
  ),
  places: z.array(
    z.strictObject({
      id: z.int(),
      name: z.string(),
    }),
  ),
  rows: z.array(otherTime),
});
export type OtherTimes = z.output<typeof otherTimes>;

/** Invitations that wait for me, by start. */
export const news = z.strictObject({
  waiting: z.array(waitingInvitation),
});
export type News = z.output<typeof news>;

export const repliesQuery = z.strictObject({
  /** Of one meeting alone. */
  event: z.uuid('must be the id of an event').optional(),
  /** The id of the last meeting that is there already. */
  after: z.uuid('must be the id of an event').optional(),
  limit,
});
export type RepliesQuery = z.output<typeof repliesQuery>;

/** One meeting I organize, with who has answered what. */
export const meetingReplies = z.strictObject({
  /** The event's. */
  id: z.string(),
  title: z.string(),
  /** Who organizes it, where I act for them; null where I do. */
  for: z.string().nullable(),
  start: z.int(),
  end: z.int(),
  allDay: z.boolean(),
  recurring: z.boolean(),
  /** How many answers by mail were put aside, to be looked at. */
  aside: z.int(),
  replies: z.array(
    z.strictObject({
      attendeeId: z.int(),
      /** Null of people outside. */
      personId: z.int().nullable(),
      name: z.string(),
      email: z.string(),
      role: z.enum(['required', 'optional']),
      reply: reply,
      note: z.string(),
      invitedAt: z.int(),
      repliedAt: z.int().nullable(),
      nudgedAt: z.int().nullable(),
      /** What a machine of theirs answered by itself, such as that they are away; null for nothing. */
      automatic: z.string().nullable(),
      /** How many other times they ask for. */
      proposals: z.int(),
      /** Why the last letter to them did not reach them; null as far as is known that it did. */
      undelivered: z.string().nullable(),
    }),
  ),
  /** Answers to single dates to come that differ from the answer to the series, by start. */
  dates: z.array(
    z.strictObject({
      attendeeId: z.int(),
      name: z.string(),
      occurrence: z.string(),
      start: z.int(),
      reply: reply,
      note: z.string(),
      repliedAt: z.int().nullable(),
    }),
  ),
});
export type MeetingReplies = z.output<typeof meetingReplies>;

/** A meeting of mine that is not sent yet, with its next occurrence. */
export const draftMeeting = z.strictObject({
  /** The event's. */
  id: z.string(),
  title: z.string(),
  start: z.int(),
  end: z.int(),
  allDay: z.boolean(),
  /** Whether it holds my time and its places meanwhile. */
  holds: z.boolean(),
  /** How many it will ask. */
  toAsk: z.int(),
});
export type DraftMeeting = z.output<typeof draftMeeting>;

export const repliesList = z.strictObject({
  meetings: z.array(meetingReplies),
  total: z.int(),
  /** Of all of them, how many wait for answers, and how many need me; those come first. */
  waiting: z.int(),
  needing: z.int(),
  /** Those that are not sent yet, the soonest first. */
  drafts: z.array(draftMeeting),
});
export type RepliesList = z.output<typeof repliesList>;

/** Somebody who has not answered meetings of mine, those to come or ones that are over. */
export const unanswered = z.strictObject({
  /** Null of people outside. */
  personId: z.int().nullable(),
  name: z.string(),
  email: z.string(),
  /** Meetings of mine that they were asked to, from half a year ago on. */
  asked: z.int(),
  /** Of those, how many are over and never got an answer. */
  never: z.int(),
  /** And how many are still to come and wait for one. */
  waiting: z.int(),
  /** Since when the longest of those waits; null where none does. */
  since: z.int().nullable(),
  /** The first of those that wait, by start, as many as are named. */
  meetings: z.array(
    z.strictObject({
      /** The event's. */
      id: z.string(),
      title: z.string(),
      start: z.int(),
      role: z.enum(['required', 'optional']),
      nudgedAt: z.int().nullable(),
    }),
  ),
});
export type Unanswered = z.output<typeof unanswered>;

/** Who has not answered, those first who owe the most answers. */
export const unansweredList = z.strictObject({
  people: z.array(unanswered),
  /** How many they are, those that are not listed included. */
  total: z.int(),
});
export type UnansweredList = z.output<typeof unansweredList>;

/** /api/invitations: what waits for an answer, one beside its day, answering. /api/replies: what others answered. */
export const invitationsRoutes = defineRoutes({
  'GET /api/invitations': { may: 'read own', answer: news, replica: true },
  'GET /api/invitations/:id': {
    may: 'answer event',
    params: eventPath,
    query: invitationQuery,
    answer: invitationDetail,
    replica: true,
  },
  'POST /api/invitations/:id/reply': {
    may: 'answer event',
    params: eventPath,
    body: replyRequest,
    answer: eventDetail,
  },
  'GET /api/invitations/:id/days': {
    may: 'read event',
    params: eventPath,
    query: daysQuery,
    answer: daysAround,
    replica: true,
  },
  'PUT /api/invitations/:id/proposals': {
    may: 'answer event',
    params: eventPath,
    body: proposeRequest,
    answer: eventDetail,
  },
  'GET /api/replies': { may: 'read own', query: repliesQuery, answer: repliesList, replica: true },
  'GET /api/replies/unanswered': { may: 'read own', answer: unansweredList, replica: true },
  'GET /api/replies/:id/history': {
    may: 'change event',
    params: eventPath,
    answer: answerHistory,
    replica: true,
  },
  'GET /api/replies/:id/times': {
    may: 'change event',
    params: eventPath,
    query: eventQuery,
    answer: otherTimes,
    replica: true,
  },
  'POST /api/replies/:id/times': {
    may: 'change event',
    params: eventPath,
    body: takeTimeRequest,
    answer: changedEvent,
  },
});
