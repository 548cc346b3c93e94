import { randomUUID } from 'node:crypto';
import type { EventDetail } from '../../../contract/eventDetail.ts';
import type { NewEvent } from '../../../contract/events.ts';
import { decideCreate } from '../../../core/meetings/create.ts';
import { wantedResources } from '../../../core/meetings/meeting.ts';
import { nextOccurrence } from '../../../core/meetings/next.ts';
import type { PersonActor } from '../../actions/index.ts';
import type { Transaction } from '../../db/transaction.ts';
import { lookUpInvited } from '../../participants/index.ts';
import { beginPersonal } from '../../personal/index.ts';
import type { Platform } from '../../platform.ts';
import type { HeldResources } from '../../reservations/index.ts';
import { commit } from '../commit.ts';
import { present } from '../read/visible.ts';
import { cleanFields } from '../richText.ts';

/**
 * Makes an event or a series, invites its people and reserves its resources, all or nothing.
 * @param before places that are held already
 * @throws Refusal naming the field that is wrong; ResourcesTaken naming the dates
 */
export async function createEvent(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  request: NewEvent,
  before?: HeldResources,
): Promise<EventDetail> {
  const { me } = actor;
  const now = platform.clock.now();
  const invited = await lookUpInvited(tx, me, request.attendees);
  const decision = decideCreate(
    { ...request, ...cleanFields(request) },
    { personId: me.id, name: me.name, email: me.email },
    invited,
    { now, newId: newMeetingId(me.email) },
  );
  const fieldOf = fieldNaming(request.resources);
  // What is one's own of it is sent behind the meeting itself, before anything that others wait for.
  const [{ meetings, asked, resources: held }, personal] = await Promise.all([
    commit(tx, platform, actor, decision, { fieldOf, held: before }),
    beginPersonal(tx, actor, decision.answer.id, {
      categoryId: request.categoryId,
      reminders: request.reminders ?? null,
    }),
  ]);
  const made = meetings.get(decision.answer.id)!;
  const resources = wantedResources(made)
    .map((id) => held.get(id)!)
    .map(({ id, name, site, seats }) => ({
      id,
      name,
      site,
      seats,
      isAsked: asked.get(made.id)?.includes(id) ?? false,
    }))
    .sort((a, b) => a.name.localeCompare(b.name));
  const detail = present(
    { ...made, createdBy: (actor.by ?? me).id, expandedUntil: null },
    nextOccurrence(made, now),
    { resources, attachments: [], undelivered: {}, left: [], ...personal },
    { level: 'acts', asOrganizer: 'acts' },
    actor,
  );
  return { ...detail, clockNotes: [...new Set([...decision.notes, ...detail.clockNotes])] };
}

/** Which field of a request named a resource: the list of them, or what was decided about single dates. */
export const fieldNaming =
  (listed: readonly number[]) =>
  (resourceId: number): string => {
    const k = listed.indexOf(resourceId);
    return k < 0 ? 'dates.resourceId' : `resources.${k}`;
  };

/** An id and a UID for a meeting that is to be made (RFC 7986 section 5.3). */
export function newMeetingId(email: string): { id: string; uid: string } {
  const domain = email.split('@')[1] ?? 'marmot.invalid';
  return { id: randomUUID(), uid: `${randomUUID()}@${domain}` };
}
