import type { Delegate, DelegateRequest, DelegatesResponse } from '../../contract/delegates.ts';
import type { Me } from '../../contract/session.ts';
import { invalid, Refusal } from '../../core/refusal.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { plainMail, type Letter } from '../letters/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import { postMails } from '../mail/index.ts';
import { findContacts, type Contact } from '../people/index.ts';
import type { Platform } from '../platform.ts';
import { deleteDelegate, putDelegate, readCoordinators, readDelegates } from './queries.ts';
import { MOST_DELEGATES } from './limits.ts';

/**
 * Lets somebody act for me, or changes what they hear of. Whoever is given that much is told.
 * @throws Refusal naming who cannot, or is one too many
 */
export async function setDelegate(
  tx: Transaction,
  platform: Platform,
  me: Me,
  id: number,
  { receives }: DelegateRequest,
): Promise<DelegatesResponse> {
  const [delegate] = id === me.id ? [] : await findContacts(tx, { ids: [id] });
  if (!delegate)
    throw invalid([{ field: 'id', message: 'must be the id of somebody else of this place' }]);
  const before: Delegate[] = await readDelegates(tx, me.id);
  if (before.length >= MOST_DELEGATES && !before.some((one) => one.id === id))
    throw invalid([{ field: 'id', message: `may be one of at most ${MOST_DELEGATES}` }]);
  const isNew = await putDelegate(tx, me.id, id, receives, platform.clock.now());
  if (isNew) tell(tx, platform, me, delegate);
  return changed(tx, me, id);
}

/** @throws Refusal where they do not act for me */
export async function removeDelegate(
  tx: Transaction,
  me: Me,
  id: number,
): Promise<DelegatesResponse> {
  if (!(await deleteDelegate(tx, me.id, id)))
    throw new Refusal('no-such-delegate', 'This person does not act for you.');
  return changed(tx, me, id);
}

async function changed(tx: Transaction, me: Me, delegateId: number): Promise<DelegatesResponse> {
  announce(tx, [subjectOf('person', me.id), subjectOf('person', delegateId)]);
  return whoActsFor(tx, me.id);
}

/** Who acts for somebody: by their own leave, and as they coordinate a team of theirs. */
export async function whoActsFor(db: Database, personId: number): Promise<DelegatesResponse> {
  const [delegates, coordinators] = await Promise.all([
    readDelegates(db, personId),
    readCoordinators(db, personId),
  ]);
  return { delegates, coordinators };
}

function tell(tx: Transaction, { publicUrl, clock }: Platform, me: Me, delegate: Contact): void {
  const letter: Letter = {
    subject: `You may act for ${me.name}`,
    title: `You may act for ${me.name}`,
    opening: [
      `${me.name} lets you plan, answer and book in their name. What you do so is shown as yours, for ${me.name}.`,
    ],
    description: '',
    facts: [],
    link: { href: publicUrl, label: 'Open Marmot' },
  };
  postMails(tx, [plainMail(letter, delegate, me)], clock.now());
}
