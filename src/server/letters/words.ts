import {
  isSeries,
  listedFor,
  seesList,
  type Meeting,
  type Occurrence,
} from '../../core/meetings/meeting.ts';
import type { MeetingFactKind } from '../../core/meetings/meetingFacts.ts';
import { parseRule } from '../../core/recurrence/rule.ts';
import { ruleSentence } from '../../core/recurrence/sentence.ts';
import { formatLength, formatSpan, zoneCity } from '../../core/time/format.ts';
import type { Interval } from '../../core/time/interval.ts';
import type { WallTime } from '../../core/time/wall.ts';
import { asPlainText } from './plainText.ts';
import { listNames } from '../../core/planner/words.ts';
import type { Differences } from './differences.ts';
import type { Correspondence, Reader } from './recipients.ts';

/** What letters are written about. */
export type Occasion = Extract<
  MeetingFactKind,
  | 'invited'
  | 'uninvited'
  | 'changed'
  | 'moved'
  | 'cancelled'
  | 'restored'
  | 'nudged'
  | 'resent'
  | 'proposal-declined'
>;

export const isOccasion = (kind: MeetingFactKind): kind is Occasion => kind in SUBJECT;

const SUBJECT: Record<Occasion, string> = {
  invited: 'Invitation',
  uninvited: 'Not asked any more',
  changed: 'Changed',
  moved: 'New time',
  cancelled: 'Cancelled',
  restored: 'On again',
  nudged: 'Please answer',
  resent: 'Invitation',
  'proposal-declined': 'Stays at its time',
};

const OPENING: Record<Occasion, (who: string) => string> = {
  invited: (who) => `${who} invites you to a meeting.`,
  uninvited: (who) => `${who} no longer asks you to this meeting. It is out of your calendar.`,
  changed: (who) => `${who} changed a meeting you are invited to.`,
  moved: (who) => `${who} moved a meeting you are invited to. Please answer again.`,
  cancelled: (who) => `${who} cancelled a meeting you were invited to.`,
  resent: (who) => `${who} sends you this invitation once more.`,
  nudged: (who) => `${who} waits for your answer to this invitation.`,
  restored: (who) => `${who} took back the cancellation of this meeting.`,
  'proposal-declined': (who) => `${who} cannot take the other time you asked for.`,
};

export interface LetterMatter extends Correspondence {
  meeting: Meeting;
  shown: Occurrence;
  /** The one occurrence it is about; null for all of it. */
  occurrence: WallTime | null;
  occasion: Occasion;
  /** Whoever did it, where it is not the organizer. */
  by: string | null;
  message: string;
  place: string;
  /** Times that the reader asked for, where the letter is about them. */
  askedFor: Interval[];
  /** What is different; null where that is not the point. */
  changed: Differences | null;
  publicUrl: string;
  /** Where somebody outside answers without an account; null for others. */
  guestPath: (reader: Reader) => string | null;
}

/** What a letter says, in words, before it is laid out. */
export interface Letter {
  subject: string;
  title: string;
  /** Plain text. */
  opening: string[];
  /** Clean HTML. */
  description: string;
  facts: [name: string, text: string][];
  link: Way | null;
  /** Where each answer is given, once it is confirmed there; left out where none is asked for. */
  answers?: Way[];
}

/** A way from a letter into Marmot. */
interface Way {
  href: string;
  label: string;
}

/** The letter to one of the readers, in their own zone and by their own clock. */
export function letterTo(reader: Reader, matter: LetterMatter): Letter {
  const { meeting, shown, occurrence, occasion, sender, by } = matter;
  const { zone, clock, participant } = reader;
  const when = formatSpan(shown, zone, clock);
  const theirs =
    zone === sender.zone
      ? ''
      : `${formatSpan(shown, sender.zone, clock)} for ${sender.name} in ${zoneCity(sender.zone)}`;
  const others = listedFor(meeting, participant).filter((one) => one.id !== participant.id);
  const facts: [string, string][] = [
    ['What changed', changedText(reader, matter)],
    ['You asked for', matter.askedFor.map((one) => formatSpan(one, zone, clock)).join('\n')],
    [
      'When',
      [`${when} (${zoneCity(zone)} time), ${formatLength(shown.end - shown.start)}`, theirs]
        .filter(Boolean)
        .join('\n'),
    ],
    ['Repeats', repeatsText(meeting, occurrence)],
    ['Where', matter.place],
    ['With', others.map((one) => one.name).join(', ')],
    ['You are', participant.role === 'optional' ? 'optional' : 'required'],
  ];
  const who = by ? `${by}, for ${sender.name},` : sender.name;
  const part = occurrence === null ? '' : ' Only this date of the series is meant.';
  return {
    subject: `${SUBJECT[occasion]}: ${shown.title}, ${when}`,
    title: shown.title,
    opening: [OPENING[occasion](who) + part, matter.message].filter(Boolean),
    description: shown.description,
    facts: facts.filter(([, text]) => text),
    ...waysFor(reader, matter),
  };
}

const ANSWERS = [
  ['accepted', 'Accept'],
  ['tentative', 'Tentative'],
  ['declined', 'Decline'],
] as const;

/**
 * Where it is seen and answered. Following a link answers nothing by itself, since mail programs and
 * those who guard them follow links, too: the answer that was picked waits there to be confirmed.
 */
function waysFor(reader: Reader, matter: LetterMatter): Pick<Letter, 'link' | 'answers'> {
  const { meeting, occurrence, occasion, publicUrl } = matter;
  const isOver = occasion === 'cancelled' || occasion === 'uninvited';
  if (isOver) return { link: null };
  const guest = matter.guestPath(reader);
  if (guest === null && reader.participant.personId === null) return { link: null };
  const address = publicUrl + (guest ?? `/invitations/${meeting.id}`);
  const query = guest || occurrence === null ? '' : `?occurrence=${occurrence}`;
  return {
    link: {
      href: address + query,
      label: guest ? 'Answer here, without an account' : 'See it beside your own day and answer',
    },
    answers: ANSWERS.map(([answer, label]) => ({
      href: `${address}${query}${query ? '&' : '?'}answer=${answer}`,
      label,
    })),
  };
}

/** What is different, a line for each: what was, where what is now stands below. */
function changedText(
  { zone, clock, participant }: Reader,
  { changed, occasion, meeting }: LetterMatter,
): string {
  if (!changed || (occasion !== 'changed' && occasion !== 'moved')) return '';
  const { was, fields, rule, added, removed, resources } = changed;
  const seesWho = seesList(meeting, participant);
  return [
    was && `It was ${formatSpan(was, zone, clock)}.`,
    ...fields,
    resources && 'Its rooms or things are others.',
    rule && 'It repeats in another way.',
    seesWho && added.length > 0 && `Asked as well: ${listNames(added, 6)}.`,
    seesWho && removed.length > 0 && `Not asked any more: ${listNames(removed, 6)}.`,
  ]
    .filter(Boolean)
    .join('\n');
}

function repeatsText(meeting: Meeting, occurrence: WallTime | null): string {
  if (!isSeries(meeting) || occurrence !== null) return '';
  return ruleSentence(parseRule(meeting.rule), meeting.timing.startsAt);
}

/** A line in a plain terminal. */
const LINE = 72;

/** Lines no longer than that, broken between words; an address is never broken. */
const wrapped = (text: string): string =>
  text
    .split('\n')
    .map((line) => {
      const lines = [''];
      for (const word of line.split(' ')) {
        const last = lines.at(-1)!;
        if (last && last.length + 1 + word.length > LINE) lines.push(word);
        else lines[lines.length - 1] = last ? `${last} ${word}` : word;
      }
      return lines.join('\n');
    })
    .join('\n');

/** A letter as plain text, for a terminal of 80 columns. */
export const letterText = ({
  title,
  opening,
  description,
  facts,
  link,
  answers = [],
}: Letter): string =>
  [
    wrapped(title),
    ...opening.map(wrapped),
    wrapped(asPlainText(description)),
    facts.map(([name, text]) => wrapped(`${name}: ${text}`)).join('\n'),
    link && `${link.label}:\n${link.href}`,
    answers.map(({ label, href }) => `${label}: ${href}`).join('\n'),
  ]
    .filter(Boolean)
    .join('\n\n');
