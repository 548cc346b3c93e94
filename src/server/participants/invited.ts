import { addressKey } from '../../core/mailAddress.ts';
import type { Invitee } from '../../contract/eventParts.ts';
import type { Invited } from '../../core/meetings/create.ts';
import { invalid } from '../../core/refusal.ts';
import type { Database } from '../db/transaction.ts';
import { findContacts } from '../people/index.ts';

/**
 * People and outside addresses as participants, each once; an address that is a colleague's is that
 * colleague.
 * @param organizer who is there already
 * @throws Refusal naming the first id that is no person's
 */
export async function lookUpInvited(
  db: Database,
  organizer: { id: number; email: string },
  invitees: readonly Invitee[],
): Promise<Invited[]> {
  if (invitees.length === 0) return [];
  const contacts = await findContacts(db, {
    ids: invitees.flatMap((one) => ('personId' in one ? [one.personId] : [])),
    emails: invitees.flatMap((one) => ('email' in one ? [one.email] : [])),
  });
  const byId = new Map(contacts.map((one) => [one.id, one]));
  const byEmail = new Map(contacts.map((one) => [addressKey(one.email), one]));
  const seen = new Set([addressKey(organizer.email)]);
  return invitees.flatMap((one, k): Invited[] => {
    const known = 'personId' in one ? byId.get(one.personId) : byEmail.get(addressKey(one.email));
    if ('personId' in one && !known) {
      throw invalid([{ field: `attendees.${k}.personId`, message: 'must be the id of a person' }]);
    }
    const email = known?.email ?? ('email' in one ? one.email : '');
    if (seen.has(addressKey(email))) return [];
    seen.add(addressKey(email));
    const name = known?.name ?? ('email' in one && one.name ? one.name : email);
    return [{ personId: known?.id ?? null, name, email, role: one.role }];
  });
}
