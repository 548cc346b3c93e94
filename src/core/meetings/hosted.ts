import type { CalendarAddress } from '../icalendar/message.ts';
import type { RequestMessage } from '../icalendar/request.ts';
import { askAgain } from '../icalendar/sequence.ts';
import { addressKey } from '../mailAddress.ts';
import { Refusal } from '../refusal.ts';
import type { DateOfSeries, Meeting, Participant } from './meeting.ts';
import type { ChangeFact } from './meetingFacts.ts';

/** What somebody elsewhere sends of a meeting that they organize. */
export type HostedMessage = RequestMessage & {
  organizer: CalendarAddress;
  /** Where it is about a single date of a series that is not known here, which. */
  dateOf?: DateOfSeries;
};

/** What the message cannot know by itself. */
export interface KnownHere {
  /** Epoch milliseconds. */
  now: number;
  newId: string;
  /** Those of the addresses that are somebody's here. */
  people: ReadonlyMap<string, { id: number; name: string }>;
  /** Whoever it came to. */
  receiverId: number;
  /** Makes clean HTML of plain text. */
  asHtml: (text: string) => string;
}

export const notKnown = () =>
  new Refusal('unknown-meeting', 'It is about a meeting that nobody here was invited to.');

export const hostOf = (meeting: Meeting): Participant =>
  meeting.participants.find((one) => one.role === 'organizer')!;

/** @throws Refusal when a message is not of the meeting's organizer, or older than what is kept */
export function refuseForeign(
  before: Meeting,
  { organizer, sequence, stamp }: HostedMessage,
): void {
  if (before.organizerId !== null)
    throw new Refusal(
      'not-theirs',
      'The meeting is organized here, and not by whoever wrote this.',
    );
  const host = hostOf(before);
  if (addressKey(host.email) !== organizer.email)
    throw new Refusal(
      'not-theirs',
      `The meeting is organized by ${host.email}, and not by ${organizer.email}.`,
    );
  if (sequence < before.sequence || (sequence === before.sequence && stamp < (host.stamp ?? 0)))
    throw new Refusal('outdated', 'It is older than what is known of the meeting already.');
}

export const stamped = (meeting: Meeting, { stamp }: HostedMessage): Participant[] =>
  meeting.participants.map((one) => (one.role === 'organizer' ? { ...one, stamp } : one));

export const factOf = (
  before: Meeting | null,
  after: Meeting,
  { comment }: HostedMessage,
): ChangeFact => {
  const again = before && askAgain(before, after);
  const moved = again && (again.whole || again.occurrences.length > 0);
  return {
    kind: !before ? 'invited' : moved ? 'moved' : 'changed',
    meetingId: after.id,
    occurrence: null,
    tell: true,
    message: comment,
  };
};
