import { isPrivate } from '../../core/availability/busy.ts';
import { createHash } from 'node:crypto';
import { composeMessage } from '../../core/icalendar/compose.ts';
import type { MeetingMessage, MessageResource, ItipMethod } from '../../core/icalendar/message.ts';
import {
  answerOf,
  isSeries,
  occurrenceOf,
  type Meeting,
  type Occurrence,
} from '../../core/meetings/meeting.ts';
import { timingInterval } from '../../core/recurrence/series.ts';
import type { WallTime } from '../../core/time/wall.ts';
import type { HeldResources } from '../reservations/index.ts';
import type { Sender } from './recipients.ts';
import { plainFields } from './plainText.ts';

/** What a message is made from. */
export interface Matter {
  meeting: Meeting;
  /** The one occurrence it is about; null for all of it. */
  occurrence: WallTime | null;
  resources: HeldResources;
  /** The organizer, and whoever writes in their name. */
  sender: Sender & { sentBy?: string | undefined };
}

/** The calendar part of a letter (RFC 5546). */
export function calendarPart(
  matter: Matter,
  method: ItipMethod,
  stamp: number,
  comment: string,
): string {
  return composeMessage(messageOf(matter, method, stamp, comment));
}

function messageOf(
  matter: Matter,
  method: ItipMethod,
  stamp: number,
  comment: string,
): MeetingMessage {
  const { meeting, occurrence } = matter;
  const message = oneMessage(matter, occurrenceOf(meeting, occurrence), method, stamp, comment);
  if (!isSeries(meeting)) return message;
  const { zone, allDay } = meeting.timing;
  const original = { zone, allDay };
  if (occurrence !== null) return { ...message, recurrenceId: occurrence, original };
  const cancelled = meeting.overrides.filter((one) => one.cancelled);
  const own = meeting.overrides.filter((one) => !one.cancelled);
  const answered = meeting.participants.flatMap((one) => Object.keys(one.occurrences));
  const alone = new Set([...own.map((one) => one.recurrenceId), ...answered]);
  for (const at of [...meeting.except, ...cancelled.map((one) => one.recurrenceId)])
    alone.delete(at);
  return {
    ...message,
    ...timingInterval(meeting.timing),
    series: {
      rule: meeting.rule,
      startsAt: meeting.timing.startsAt,
      except: [...meeting.except, ...cancelled.map((one) => one.recurrenceId)].sort(),
    },
    changed: [...alone].sort().map((at) => ({
      ...oneMessage(matter, occurrenceOf(meeting, at), method, stamp, comment),
      recurrenceId: at,
      original,
    })),
  };
}

function oneMessage(
  { meeting, resources, sender }: Matter,
  occurrence: Occurrence,
  method: ItipMethod,
  stamp: number,
  comment: string,
): MeetingMessage {
  const at = occurrence.recurrenceId;
  // What is published asks nobody for an answer, and names none (RFC 5546 section 3.2.1).
  const asked = method === 'PUBLISH' ? [] : meeting.participants;
  const reserved = method === 'PUBLISH' ? [] : occurrence.resources;
  return {
    method,
    uid: meeting.uid,
    sequence: meeting.sequence,
    stamp,
    organizer: sender,
    attendees: asked.map((one) => ({
      name: one.name,
      email: one.email,
      role: one.role === 'optional' ? 'optional' : 'required',
      reply: answerOf(one, at).reply,
    })),
    resources: reserved.flatMap((id) => resourceOf(id, resources, meeting.uid) ?? []),
    transparent: occurrence.showsAs === 'free',
    confidential: isPrivate(meeting.visibility),
    fields: { ...plainFields(occurrence), place: placeText(occurrence, resources) },
    start: occurrence.start,
    end: occurrence.end,
    allDay: occurrence.timing.allDay,
    zone: occurrence.timing.zone,
    ...(comment && { comment }),
  };
}

function resourceOf(id: number, resources: HeldResources, uid: string): MessageResource | null {
  const resource = resources.get(id);
  if (!resource) return null;
  const { name, kind } = resource;
  return { name, isRoom: kind === 'room' || kind === 'lab', uri: `urn:uuid:${uuidOf(uid, id)}` };
}

/** A UUID made from names (RFC 9562 section 5.5), the same for the same resource of an installation. */
function uuidOf(uid: string, id: number): string {
  const domain = uid.split('@')[1] ?? '';
  const hash = createHash('sha1').update(`resource ${id} at ${domain}`).digest();
  hash[6] = (hash[6]! & 0x0f) | 0x50;
  hash[8] = (hash[8]! & 0x3f) | 0x80;
  const hex = hash.toString('hex').slice(0, 32);
  const ends = [0, 8, 12, 16, 20, 32];
  return ends
    .slice(1)
    .map((end, k) => hex.slice(ends[k], end))
    .join('-');
}

/** Where it is, in words: what was typed, then the resources reserved. */
export const placeText = (
  { place, resources: ids }: Pick<Occurrence, 'place' | 'resources'>,
  resources: HeldResources,
): string => {
  const named = ids.flatMap((id) => {
    const one = resources.get(id);
    return one ? [`${one.name} (${one.site})`] : [];
  });
  return [place, ...named].filter(Boolean).join(', ');
};
