/* Asking people, once more or as well, and other times that they ask for. */
import { z } from 'zod';
import { DAY } from '../core/time/interval.ts';
import { MOST_PROPOSALS } from '../core/meetings/rights.ts';
import { instant, subjectId, versionRead } from './common.ts';
import { invitees, message, recurrenceId, tell } from './eventParts.ts';
import { LONGEST_MEETING_DAYS } from './limits.ts';

/** Attendees by their own numbers, or all who are meant. */
const someAttendees = z.union(
  [
    z.literal('all'),
    z
      .array(z.int().positive())
      .min(1, 'must name somebody')
      .max(500, 'may name at most 500 people'),
  ],
  { error: 'must be "all" or a list of the numbers of attendees' },
);

export const nudgeRequest = z.strictObject({
  /** "all" are those who have not answered and were not reminded within a day. */
  attendees: someAttendees,
  message: message.default(''),
});
export type NudgeRequest = z.input<typeof nudgeRequest>;

/** Sends the invitation once more to those named, or to all. */
export const resendRequest = z.strictObject({
  attendees: someAttendees,
  message: message.default(''),
});
export type ResendRequest = z.input<typeof resendRequest>;

export const inviteRequest = z.strictObject({
  attendees: invitees.min(1, 'must name somebody'),
  message: message.default(''),
});
export type InviteRequest = z.input<typeof inviteRequest>;

const span = { start: instant, end: instant };

export const proposeRequest = z.strictObject({
  /** The date of a series that is meant. */
  occurrence: recurrenceId.optional(),
  /** All the times that are asked for from now on, in place of those before; none takes them back. */
  times: z
    .array(z.strictObject(span), { error: 'must be a list of times' })
    .max(MOST_PROPOSALS, `may name at most ${MOST_PROPOSALS} times`),
  note: message.default(''),
  /** Somebody for whom I act; without it, I ask for myself. */
  for: subjectId.optional(),
});
export type ProposeRequest = z.input<typeof proposeRequest>;

export const declineProposalRequest = z.strictObject({
  /** The attendee's own number. */
  attendeeId: z
    .int('must be the number of an attendee')
    .positive('must be the number of an attendee'),
  occurrence: recurrenceId.optional(),
  ...span,
  message: message.default(''),
});
export type DeclineProposalRequest = z.input<typeof declineProposalRequest>;

/** Moves a meeting to a time that was asked for, or to another; its places are exchanged where taken. */
export const takeTimeRequest = z
  .strictObject({
    version: versionRead,
    occurrence: recurrenceId.optional(),
    ...span,
    tell: tell.default('everyone'),
    message: message.default(''),
  })
  .refine(({ start, end }) => end > start, { path: ['end'], message: 'must be after the start' })
  .refine(({ start, end }) => end - start <= LONGEST_MEETING_DAYS * DAY, {
    path: ['end'],
    message: `may be at most ${LONGEST_MEETING_DAYS} days after the start`,
  });
export type TakeTimeRequest = z.input<typeof takeTimeRequest>;
