import { counted } from '../../../core/counted.ts';
import { peopleOf, type Meeting } from '../../../core/meetings/meeting.ts';
import { occurrenceOf } from '../../../core/meetings/meeting.ts';
import { nextOccurrence } from '../../../core/meetings/next.ts';
import { formatSpan } from '../../../core/time/format.ts';
import type { Transaction } from '../../db/transaction.ts';
import { plainMail } from '../../letters/index.ts';
import { postMails } from '../../mail/index.ts';
import { contactsById, type Contact } from '../../people/index.ts';
import type { Platform } from '../../platform.ts';
import { MOST_NAMED_IN_LETTER } from '../limits.ts';

/** What somebody is told about one who leaves, part by part. */
export interface Concern {
  /** What follows, such as `From now on you organize:`; meetings are listed under it. */
  line: string;
  meetings: readonly Meeting[];
}

/** Gathers what each person here is told, in the order in which it is said. */
export class Concerns {
  readonly #of = new Map<number, { line: string; meetings: Meeting[] }[]>();

  add(personId: number, line: string, meeting?: Meeting): void {
    const concerns = this.#of.get(personId) ?? [];
    this.#of.set(personId, concerns);
    const there = concerns.find((one) => one.line === line);
    if (!there) concerns.push({ line, meetings: meeting ? [meeting] : [] });
    else if (meeting) there.meetings.push(meeting);
  }

  /** Of everybody of this installation who takes part in a meeting, but for some. */
  addAll(meeting: Meeting, but: readonly (number | null)[], line: string): void {
    for (const id of peopleOf(meeting)) if (!but.includes(id)) this.add(id, line, meeting);
  }

  /**
   * Writes everybody one letter.
   * @returns how many
   */
  async write(
    tx: Transaction,
    platform: Platform,
    { subject, opening }: { subject: string; opening: string },
  ): Promise<number> {
    const contacts = await contactsById(tx, [...this.#of.keys()]);
    const now = platform.clock.now();
    const mails = [...this.#of].flatMap(([id, concerns]) => {
      const to = contacts.get(id);
      if (!to?.hasAccount) return [];
      return [
        plainMail(
          {
            subject,
            title: subject,
            opening: [opening, ...concerns.map((one) => inWords(one, to, now))],
            description: '',
            facts: [],
            link: { href: platform.publicUrl, label: 'Open Marmot' },
          },
          to,
        ),
      ];
    });
    postMails(tx, mails, now);
    return mails.length;
  }
}

function inWords({ line, meetings }: Concern, { zone, clock }: Contact, now: number): string {
  const named = meetings.slice(0, MOST_NAMED_IN_LETTER).map((meeting) => {
    const shown = occurrenceOf(meeting, nextOccurrence(meeting, now));
    return `${shown.title}, ${formatSpan(shown, zone, clock)}`;
  });
  const more = meetings.length - named.length;
  return [line, ...named, ...(more > 0 ? [`and ${counted(more, 'other')}`] : [])].join('\n');
}
