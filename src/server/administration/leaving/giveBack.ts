import type { Edit } from '../../../core/edits.ts';
import { peopleOf } from '../../../core/meetings/meeting.ts';
import { dateAt } from '../../../core/time/wall.ts';
import type { PersonActor } from '../../actions/index.ts';
import type { Transaction } from '../../db/transaction.ts';
import { putDelegations, type Delegation } from '../../delegates/index.ts';
import { lockMeetings, undoTogether } from '../../events/index.ts';
import type { ThingRevision, ThingsTakenBack } from '../../facts/index.ts';
import { readOwners, updateOwners } from '../../places/index.ts';
import type { Platform } from '../../platform.ts';
import { putWaiting, type WaitingRow } from '../../waiting/index.ts';
import { Concerns } from './letters.ts';
import { putLeads } from './queries.ts';

/**
 * Gives people who are here again what was handed over or ended as they left: each thing that still is what their
 * leaving made of it. What others have done with it since stays theirs, and what has begun since stays as it is.
 */
export async function giveBack(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  leavings: readonly ThingRevision[],
  people: ReadonlyMap<number, { name: string }>,
): Promise<Pick<ThingsTakenBack, 'left' | 'meetings'>> {
  const left: string[] = [];
  const meetings = { undone: 0, partly: 0, left: 0 };
  const now = platform.clock.now();
  for (const { thingId, edits, meetings: changes } of leavings) {
    const { name } = people.get(thingId)!;
    const before = await lockMeetings(tx, changes.map((one) => one.id).sort());
    const taken = await undoTogether(tx, platform, actor, changes, { after: now, ofLeaving: true });
    meetings.undone += taken.undone;
    meetings.partly += taken.partly;
    meetings.left += taken.left;
    left.push(...(await restoreBelongings(tx, thingId, name, edits, actor, now)));
    const after = await lockMeetings(tx, [...before.keys()].sort());
    const concerns = new Concerns();
    for (const meeting of after.values()) {
      const was = before.get(meeting.id)!;
      if (was.version === meeting.version) continue;
      for (const id of new Set([...peopleOf(was), ...peopleOf(meeting)]))
        if (id !== thingId)
          concerns.add(
            id,
            meeting.organizerId === thingId
              ? `${name} organizes it again:`
              : `${name} takes part again:`,
            meeting,
          );
    }
    await concerns.write(tx, platform, {
      subject: `${name} is here again`,
      opening: `That ${name} had left was taken back. This is what it changes for you.`,
    });
  }
  return { left, meetings };
}

const under = (edits: readonly Edit[], what: string) =>
  edits.flatMap((edit) => {
    const [kind, id] = edit.path.split('/');
    return kind === what ? [{ ...edit, id: Number(id) }] : [];
  });

/** Desks, teams, delegations and waiting. @returns what stays, in words */
async function restoreBelongings(
  tx: Transaction,
  personId: number,
  name: string,
  edits: readonly Edit[],
  actor: PersonActor,
  now: number,
): Promise<string[]> {
  const desks = under(edits, 'desk');
  const owners = await readOwners(
    tx,
    desks.map(({ id }) => id),
  );
  const free = desks.filter(({ id, to }) => owners.get(id)?.ownerId === to);
  const today = dateAt(now, actor.me.zone);
  if (free.length > 0)
    await updateOwners(
      tx,
      free.map(({ id }) => ({ id, ownerId: personId, today })),
    );
  const leads = under(edits, 'lead').map(({ id }) => id);
  const led = leads.length > 0 ? await putLeads(tx, personId, leads) : [];
  putDelegations(
    tx,
    under(edits, 'delegate').map(({ from }) => from as Delegation),
  );
  putWaiting(
    tx,
    under(edits, 'waiting').map(({ from }) => from as WaitingRow),
    now,
  );
  return [
    ...desks.flatMap(({ id, to }) => {
      const owner = owners.get(id);
      return owner && owner.ownerId !== to ? [`${owner.name}, given to somebody since`] : [];
    }),
    ...(led.length < leads.length ? [`a team of ${name}, led by somebody else since`] : []),
  ];
}
