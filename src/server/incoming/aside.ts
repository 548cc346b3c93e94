import type { AsideList, CountAside } from '../../contract/incoming.ts';
import { Refusal } from '../../core/refusal.ts';
import type { PersonActor } from '../actions/index.ts';
import { inPart, type Transaction } from '../db/transaction.ts';
import { askInPlace, changeableMeeting, receiveAnswer, receiveRequest } from '../events/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import type { Platform } from '../platform.ts';
import {
  closeAside,
  lockAside,
  lockAsideOfSender,
  readAside,
  readAsideOf,
  type AsideHeld,
} from './queries.ts';
import { readCalendarPart, readingOf } from './receive.ts';

const noSuchMail = () =>
  new Refusal('no-such-mail', 'There is no such mail put aside, or it is settled by now.');

/** The mail, to the actor or about a meeting that they organize; others' look as if they were not there. */
async function mineAside(tx: Transaction, actor: PersonActor, id: string) {
  const mail = await lockAside(tx, id);
  if (!mail) throw noSuchMail();
  const { eventId, personId } = mail;
  const isMine =
    eventId === null
      ? personId === actor.me.id
      : await changeableMeeting(tx, actor, eventId, 'organizer').catch(() => null);
  if (!isMine) throw noSuchMail();
  return mail;
}

async function listOf(
  tx: Transaction,
  actor: PersonActor,
  about: string | null,
): Promise<AsideList> {
  announce(tx, [about ? subjectOf('meeting', about) : subjectOf('notifications', actor.me.id)]);
  return { mails: about ? await readAside(tx, about) : await readAsideOf(tx, actor.me.id) };
}

/**
 * Counts by hand what a mail carries: whoever counts an invitation so vouches for it. Where somebody sends
 * another in their place, that one is asked.
 * @param how `zone`: by which clock its times are, where nobody knows what it calls it; `allOfSender`: whether
 *   all that is put aside of the same sender in the same place is counted, too
 * @throws Refusal where there is no such mail, or it carries nothing that could be counted
 */
export async function countAside(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: string,
  { zone, allOfSender }: CountAside,
): Promise<AsideList> {
  const mail = await mineAside(tx, actor, id);
  const { eventId } = mail;
  if (mail.sends !== null && eventId !== null) {
    const { attendeeId, sends } = mail;
    await askInPlace(tx, platform, actor, { eventId, attendeeId, email: sends });
    await closeAside(tx, id, null, null);
    return listOf(tx, actor, eventId);
  }
  const mails = allOfSender && mail.sender ? await lockAsideOfSender(tx, mail) : [mail];
  for (const one of mails)
    if (one.id === id) await countOne(tx, platform, actor, one, zone);
    // Of what goes along some may be outdated by what comes after it.
    else
      await inPart(tx, () => countOne(tx, platform, actor, one, zone)).catch((error: unknown) => {
        if (!(error instanceof Refusal)) throw error;
      });
  return listOf(tx, actor, eventId);
}

async function countOne(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  { id, eventId, calendar, sender }: AsideHeld,
  zone: string | undefined,
): Promise<void> {
  if (calendar === null)
    throw new Refusal('not-a-reply', 'It carries no answer that could be counted.');
  const { why, ...counted } =
    eventId === null
      ? await receiveRequest(tx, platform, readingOf(tx, calendar, { instead: zone }), {
          from: null,
          to: actor.me.email,
          checked: { by: null },
        })
      : await receiveAnswer(tx, platform, await readCalendarPart(calendar), {
          how: 'hand',
          from: sender,
        });
  await closeAside(tx, id, why, counted.eventId);
}

/** @throws Refusal where there is no such mail */
export async function leaveAside(
  tx: Transaction,
  actor: PersonActor,
  id: string,
): Promise<AsideList> {
  const { eventId } = await mineAside(tx, actor, id);
  await closeAside(tx, id, null, null);
  return listOf(tx, actor, eventId);
}
