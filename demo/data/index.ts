import { transaction } from '../../src/server/db/transaction.ts';
import type { Platform } from '../../src/server/platform.ts';
import { inventCalendars } from './invent.ts';
import { loadOrganization } from './load.ts';
import { openInvitations } from './openInvitations.ts';
import { storePersonal } from './personal.ts';
import { storePublished } from './published.ts';
import { storeEvents } from './store.ts';

/** Loads the whole demonstration in one transaction, relative to the platform's clock. */
export async function loadDemonstration(
  platform: Platform,
): Promise<{ people: number; resources: number; events: number }> {
  const now = platform.clock.now();
  return transaction(platform.pool, async (tx) => {
    const organization = await loadOrganization(tx, now);
    const calendars = inventCalendars(organization, now);
    await storeEvents(tx, calendars.events, now);
    await openInvitations(tx, platform, organization, calendars);
    await storePersonal(tx, organization, new Date(now).getUTCFullYear());
    await storePublished(tx, platform, organization);
    await tx.query('analyze claim, occurrence, event, attendee, published_busy');
    return {
      people: organization.people.length,
      resources: organization.resources.length,
      events: calendars.events.length,
    };
  });
}
