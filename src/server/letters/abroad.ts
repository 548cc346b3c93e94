import { isPrivate } from '../../core/availability/busy.ts';
import { composeMessage } from '../../core/icalendar/compose.ts';
import { composeRefresh } from '../../core/icalendar/refresh.ts';
import type { ItipMethod } from '../../core/icalendar/message.ts';
import { factDetail, type MeetingFact } from '../../core/meetings/meetingFacts.ts';
import {
  answerOf,
  isSeries,
  occurrenceOf,
  type Meeting,
  type Participant,
} from '../../core/meetings/meeting.ts';
import { nextOccurrence } from '../../core/meetings/next.ts';
import { formatSpan } from '../../core/time/format.ts';
import type { Actor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import { postMails, wasWritten, withdrawLetters, type OutgoingMail } from '../mail/index.ts';
import { contactsById } from '../people/index.ts';
import type { Platform } from '../platform.ts';
import { plainMail } from './plain.ts';
import { plainFields } from './plainText.ts';
import type { Letter } from './words.ts';
import { ASKED_AGAIN_AFTER_MS } from './limits.ts';

const SAID = {
  accepted: 'comes',
  tentative: 'comes perhaps',
  declined: 'does not come',
  'needs-action': 'has not answered',
} as const;

/**
 * Writes to the organizers of meetings elsewhere what people here answered (REPLY), or that they ask
 * for another time (COUNTER; RFC 5546 sections 3.2.3 and 3.2.7). What was answered a moment ago and has
 * not left is replaced.
 * @returns how many letters go out
 */
export async function replyToExternalOrganizer(
  tx: Transaction,
  platform: Platform,
  actor: Actor,
  facts: readonly MeetingFact[],
  meetings: ReadonlyMap<string, Meeting>,
): Promise<number> {
  const told = facts.flatMap((fact) => {
    const meeting = meetings.get(fact.meetingId);
    const isAnswer = fact.kind === 'replied' || fact.kind === 'proposed';
    if (!meeting || meeting.organizerId !== null || !isAnswer || factDetail(fact, 'quietly'))
      return [];
    const who = meeting.participants.find((one) => one.id === factDetail(fact, 'attendee'));
    return who && who.personId !== null ? [{ fact, meeting, who }] : [];
  });
  if (told.length === 0) return 0;
  const contacts = await contactsById(
    tx,
    told.map(({ who }) => who.personId!),
  );
  const mails = told.flatMap(({ fact, meeting, who }) => {
    const mail = answerMail(fact, meeting, who, contacts.get(who.personId!)!, actor, platform);
    return mail ? [mail] : [];
  });
  await withdrawLetters(
    tx,
    mails.map(({ eventId, from }) => ({ eventId: eventId!, from: from.email })),
  );
  postMails(tx, mails, platform.clock.now(), platform.holdSeconds);
  return mails.length;
}

/** Asks the organizer of a meeting elsewhere for all of it once more (REFRESH; section 3.2.6). */
export async function askForInvitation(
  tx: Transaction,
  platform: Platform,
  meeting: Meeting,
  me: { name: string; email: string },
): Promise<void> {
  const now = platform.clock.now();
  if (await wasWritten(tx, meeting.id, 'refresh', now - ASKED_AGAIN_AFTER_MS)) return;
  const host = meeting.participants.find((one) => one.role === 'organizer')!;
  const { title } = occurrenceOf(meeting, null);
  const letter: Letter = {
    subject: `Please send once more: ${title}`,
    title,
    opening: ['Something was added to this meeting. Please send the whole invitation once more.'],
    description: '',
    facts: [],
    link: null,
  };
  const content = composeRefresh({
    uid: meeting.dateOf?.uid ?? meeting.uid,
    organizer: host.email,
    attendee: me,
    stamp: now,
  });
  const mail: OutgoingMail = {
    ...plainMail(letter, { name: host.name, email: host.email }, me),
    eventId: meeting.id,
    calendar: { method: 'REFRESH', content },
    tells: { occasion: 'refresh', version: meeting.version },
  };
  postMails(tx, [mail], now);
}

function answerMail(
  fact: MeetingFact,
  meeting: Meeting,
  who: Participant,
  me: { name: string; email: string; zone: string; clock: '24' | '12' },
  actor: Actor,
  platform: Platform,
): OutgoingMail | null {
  const now = platform.clock.now();
  const host = meeting.participants.find((one) => one.role === 'organizer')!;
  const occurrence = isSeries(meeting) ? fact.occurrence : null;
  const shown = occurrenceOf(meeting, occurrence ?? nextOccurrence(meeting, now));
  const { reply, note } = answerOf(who, occurrence);
  const instead = fact.kind === 'proposed' ? who.proposals.at(-1) : undefined;
  // Times that are taken back are not asked for any more, which no message says.
  if (fact.kind === 'proposed' && !instead) return null;
  const method: ItipMethod = instead ? 'COUNTER' : 'REPLY';
  const span = instead ?? shown;
  const words = instead ? instead.note : note;
  const by = actor.kind === 'person' && actor.by ? actor.by : null;
  const content = composeMessage({
    method,
    uid: meeting.dateOf?.uid ?? meeting.uid,
    sequence: meeting.sequence,
    stamp: now,
    organizer: { name: host.name, email: host.email },
    attendees: [
      {
        name: me.name,
        email: me.email,
        role: who.role === 'optional' ? 'optional' : 'required',
        reply,
        sentBy: by?.email,
      },
    ],
    resources: [],
    transparent: shown.showsAs === 'free',
    confidential: isPrivate(meeting.visibility),
    fields: plainFields(shown),
    start: span.start,
    end: span.end,
    allDay: shown.timing.allDay,
    zone: shown.timing.zone,
    ...(meeting.dateOf
      ? { recurrenceId: meeting.dateOf.at, original: meeting.dateOf }
      : occurrence !== null
        ? {
            recurrenceId: occurrence,
            original: { zone: meeting.timing.zone, allDay: meeting.timing.allDay },
          }
        : isSeries(meeting) && {
            series: {
              rule: meeting.rule,
              startsAt: meeting.timing.startsAt,
              except: meeting.except,
            },
          }),
    ...(words && { comment: words }),
  });
  const says = instead ? `asks for ${formatSpan(instead, me.zone, me.clock)} instead` : SAID[reply];
  const letter: Letter = {
    subject: `${me.name} ${says}: ${shown.title}`,
    title: shown.title,
    opening: [`${by ? `${by.name}, for ${me.name}: ` : ''}${me.name} ${says}.`, words].filter(
      Boolean,
    ),
    description: '',
    facts: [['When', formatSpan(shown, meeting.timing.zone, '24')]],
    link: null,
  };
  return {
    ...plainMail(letter, { name: host.name, email: host.email }, me),
    eventId: meeting.id,
    calendar: { method, content },
    tells: { occasion: fact.kind, version: meeting.version },
  };
}
