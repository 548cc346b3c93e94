import { transaction } from '../../src/server/db/transaction.ts';
import type { Platform } from '../../src/server/platform.ts';
import { fillDays, oldSeries } from './everyday.ts';
import { plannedClosure, storeGoingsOn } from './goingsOn.ts';
import { inventCalendars } from './invent.ts';
import { loadOrganization } from './load.ts';
import { openInvitations, planInvitations } from './openInvitations.ts';
import { storePersonal } from './personal.ts';
import { storePublished } from './published.ts';
import { storeEvents } from './store.ts';

/**
 * Loads the whole demonstration in one transaction, relative to the platform's clock.
 * @param isFull whether working days are as full as they are in life; tests know each thing of what is left
 */
export async function loadDemonstration(
  platform: Platform,
  isFull = true,
): Promise<{ people: number; resources: number; events: number }> {
  const now = platform.clock.now();
  return transaction(platform.pool, async (tx) => {
    const organization = await loadOrganization(tx, now);
    const calendars = inventCalendars(organization, now);
    const planned = planInvitations(organization, calendars, now);
    const closed = isFull && plannedClosure(organization, calendars, now);
    if (isFull) {
      oldSeries(organization, calendars, now);
      fillDays(organization, calendars, now);
    }
    await storeEvents(tx, calendars.events, now);
    await openInvitations(tx, platform, organization, planned);
    if (closed) await storeGoingsOn(tx, platform, organization, calendars, closed);
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
