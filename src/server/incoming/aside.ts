import type { AsideList } from '../../contract/incoming.ts';
import { Refusal } from '../../core/refusal.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import { changeableMeeting, receiveAnswer, receiveRequest } from '../events/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import type { Platform } from '../platform.ts';
import { lockAside, readAside, readAsideOf, closeAside } from './queries.ts';
import { readCalendarPart } from './receive.ts';

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

async function settled(
  tx: Transaction,
  actor: PersonActor,
  id: string,
  about: string | null,
): Promise<AsideList> {
  await closeAside(tx, id);
  announce(tx, [about ? subjectOf('meeting', about) : subjectOf('notifications', actor.me.id)]);
  return { mails: about ? await readAside(tx, about) : await readAsideOf(tx, actor.me.id) };
}

/**
 * Counts by hand what a mail carries: whoever counts an invitation so vouches for it.
 * @throws Refusal where there is no such mail, or it carries nothing that could be counted
 */
export async function countAside(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: string,
): Promise<AsideList> {
  const { calendar, eventId } = await mineAside(tx, actor, id);
  if (calendar === null)
    throw new Refusal('not-a-reply', 'It carries no answer that could be counted.');
  const part = await readCalendarPart(calendar);
  if (eventId === null)
    await receiveRequest(platform, part, { from: null, to: actor.me.email }, tx);
  else await receiveAnswer(platform, part, null, tx);
  return settled(tx, actor, id, eventId);
}

/** @throws Refusal where there is no such mail */
export async function leaveAside(
  tx: Transaction,
  actor: PersonActor,
  id: string,
): Promise<AsideList> {
  const { eventId } = await mineAside(tx, actor, id);
  return settled(tx, actor, id, eventId);
}
