import type { EventChange } from '../../../contract/events.ts';
import { occurrenceOf, organizerHere, type Meeting } from '../../../core/meetings/meeting.ts';
import { isTitleOfBooking, retitled } from '../../../core/meetings/ownTitle.ts';
import { decideChange } from '../../../core/meetings/change.ts';
import type { PersonActor } from '../../actions/index.ts';
import type { Transaction } from '../../db/transaction.ts';
import { lookUpInvited } from '../../participants/index.ts';
import type { Platform } from '../../platform.ts';
import { readResources, type HeldResources } from '../../reservations/index.ts';
import { cleanFields } from '../richText.ts';
import { lockChangeableMeeting } from '../read/visible.ts';
import { fieldNaming, newMeetingId } from './create.ts';
import { carryOut, type Done } from './carryOut.ts';

/**
 * Changes an event in place, or a part of a series; its resources are never free in between.
 * @param held places that are held already
 * @throws Refusal with the present state when `version` is not the present one
 */
export async function changeEvent(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: string,
  change: EventChange,
  held?: HeldResources,
): Promise<Done> {
  const before = await lockChangeableMeeting(
    tx,
    actor,
    id,
    change.version,
    change.rights && 'organizer',
  );
  const organizer = before.participants.find((one) => one.role === 'organizer')!;
  const invited =
    change.attendees &&
    (await lookUpInvited(
      tx,
      { id: organizerHere(before), email: organizer.email },
      change.attendees,
    ));
  const title = change.title ?? (await titleElsewhere(tx, before, change));
  const decision = decideChange(
    before,
    { ...change, fields: cleanFields({ ...change, ...(title && { title }) }), invited },
    { now: platform.clock.now(), newId: newMeetingId(before.uid) },
  );
  const fieldOf = fieldNaming(change.resources ?? []);
  return carryOut(tx, platform, actor, before, decision, { fieldOf, held });
}

/** What it is called in other places, where it is called by those it has; null where it stays as it is. */
async function titleElsewhere(
  tx: Transaction,
  before: Meeting,
  { resources, occurrence, scope }: EventChange,
): Promise<string | null> {
  if (!resources) return null;
  const at = scope === 'all' ? null : (occurrence ?? null);
  const present = at === null ? before : occurrenceOf(before, at);
  if (!isTitleOfBooking(present.title)) return null;
  const gone = present.resources.filter((id) => !resources.includes(id));
  const come = resources.filter((id) => !present.resources.includes(id));
  if (gone.length === 0) return null;
  const places = await readResources(tx, [...gone, ...come]);
  const namesOf = (ids: readonly number[]) => ids.flatMap((id) => places.get(id)?.name ?? []);
  const title = retitled(present.title, namesOf(gone), namesOf(come));
  return title === present.title ? null : title;
}
