import { parseFreeBusy } from '../../src/core/icalendar/freebusy.ts';
import { replaceTimes } from '../../src/server/published/index.ts';
import type { Transaction } from '../../src/server/db/transaction.ts';
import type { Platform } from '../../src/server/platform.ts';
import { partnerAddress, UNPUBLISHED } from '../stand-ins/partnerCalendars/calendars.ts';
import type { LoadedOrganization } from './load.ts';

/** Notes where the partner's people publish their busy times, all but one, and reads them once. */
export async function storePublished(
  tx: Transaction,
  platform: Platform,
  { people }: LoadedOrganization,
): Promise<void> {
  for (const person of people.filter((one) => one.site === null && one.name !== UNPUBLISHED)) {
    const address = partnerAddress(person.email.split('@')[0]!);
    await tx.query('insert into published_calendar (person_id, address) values ($1, $2)', [
      person.id,
      address,
    ]);
    const text = await platform.calendars.read(address);
    await replaceTimes(tx, person.id, parseFreeBusy(text, person.zone), platform.clock.now());
  }
}
