import type { EventChange } from '../../contract/events.ts';
import type { Me } from '../../contract/session.ts';
import type { WallTime } from '../../core/time/wall.ts';
import type { Transaction } from '../db/transaction.ts';
import type { Platform } from '../platform.ts';
import { layOut } from './layOut.ts';
import { writeToAttendees, type Occasion } from './letters.ts';
import { occurrenceOf, type EventRecord } from './model.ts';
import { recordAction } from './own.ts';
import { readEvent, type EventContent } from './queries.ts';
import { cleanHtml } from './richText.ts';

/** An event as a request left it, and what had to be decided on the way, in sentences. */
export interface Changed {
  event: EventRecord;
  notes: string[];
  /** Where the change is taken back, if not at this event itself. */
  undo?: { id: string; version: number };
}

type Texts = Pick<
  EventChange,
  'title' | 'description' | 'agenda' | 'notes' | 'place' | 'showsAs' | 'visibility'
>;

/** What an event says of itself as a whole. */
export const contentOf = (event: EventRecord): EventContent => ({
  ...event.whole,
  title: event.title,
  description: event.description,
  place: event.place,
  agenda: event.agenda,
  notes: event.notes,
  endZone: event.endZone,
  rule: event.rule,
  exceptAt: event.exceptAt,
  showsAs: event.showsAs,
  visibility: event.visibility,
});

/** The texts of a change, cleaned, those that it gives only. */
export function changedTexts(change: Texts): Partial<Texts> {
  const { title, description, agenda, notes, place, showsAs } = change;
  return {
    ...(title !== undefined && { title }),
    ...(description !== undefined && { description: cleanHtml(description) }),
    ...(agenda !== undefined && { agenda: cleanHtml(agenda) }),
    ...(notes !== undefined && { notes: cleanHtml(notes) }),
    ...(place !== undefined && { place }),
    ...(showsAs !== undefined && { showsAs }),
  };
}

/** The content with the texts of a change put in. */
export const withChanges = (content: EventContent, change: Texts): EventContent => ({
  ...content,
  ...changedTexts(change),
  ...(change.visibility !== undefined && { visibility: change.visibility }),
});

/**
 * Ends a change that has been written: occurrences and claims follow, people are told, the log is
 * kept.
 * @param at the one occurrence that was changed; else all of it was
 * @throws ResourcesTaken
 */
export async function settle(
  tx: Transaction,
  platform: Platform,
  me: Me,
  before: EventRecord,
  request: { tell: 'everyone' | 'nobody'; message: string },
  occasion: Occasion,
  at?: WallTime,
): Promise<EventRecord> {
  const now = platform.clock.now();
  await layOut(tx, (await readEvent(tx, before.id, now))!, now);
  const whole = (await readEvent(tx, before.id, now))!;
  const event = at === undefined ? whole : occurrenceOf(whole, at);
  const about = at === undefined ? 'all' : 'occurrence';
  const mails =
    request.tell === 'nobody'
      ? 0
      : await writeToAttendees(tx, platform, event, occasion, request.message, about);
  const action = ACTIONS[occasion];
  await recordAction(tx, platform, me, event, action, {
    mails,
    before: before.version,
    ...(at && { occurrence: at }),
  });
  return event;
}

const ACTIONS: Record<Occasion, string> = {
  invited: 'create',
  changed: 'change',
  moved: 'change',
  cancelled: 'cancel',
  restored: 'restore',
};
