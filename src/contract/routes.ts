/* Every route there is. The browser takes its types from here and nothing else of it. */
import { accountsRoutes } from './accounts.ts';
import { administrationRoutes } from './administration.ts';
import { archiveRoutes } from './archive.ts';
import { keepingRoutes } from './keeping.ts';
import { runningRoutes } from './running.ts';
import { directoryRoutes } from './directory.ts';
import { passkeysRoutes } from './passkeys.ts';
import { providersRoutes } from './providers.ts';
import { leavingRoutes } from './leaving.ts';
import { attachmentsRoutes } from './attachments.ts';
import { availabilityRoutes } from './availability.ts';
import { bookingsRoutes } from './bookings.ts';
import { calendarRoutes } from './calendar.ts';
import { catalogueRoutes } from './catalogue.ts';
import { changesRoutes } from './changes.ts';
import { closuresRoutes } from './closures.ts';
import { commentsRoutes } from './comments.ts';
import { delegatesRoutes } from './delegates.ts';
import { eventsRoutes } from './events.ts';
import { guestRoutes } from './guest.ts';
import { healthRoutes } from './health.ts';
import { incomingRoutes } from './incoming.ts';
import { invitationsRoutes } from './invitations.ts';
import { ledgerRoutes } from './ledger.ts';
import { lineUpsRoutes } from './lineUps.ts';
import { liveRoutes } from './live.ts';
import { mailroomRoutes } from './mailroom.ts';
import { notificationsRoutes } from './notifications.ts';
import { peopleRoutes } from './people.ts';
import { placesRoutes } from './places.ts';
import { preferencesRoutes } from './preferences.ts';
import { remindersRoutes } from './reminders.ts';
import { searchRoutes } from './search.ts';
import { sessionRoutes } from './session.ts';
import { setupRoutes } from './setup.ts';
import { waitingRoutes } from './waiting.ts';

export const ROUTES = {
  ...healthRoutes,
  ...sessionRoutes,
  ...setupRoutes,
  ...accountsRoutes,
  ...administrationRoutes,
  ...leavingRoutes,
  ...providersRoutes,
  ...passkeysRoutes,
  ...directoryRoutes,
  ...archiveRoutes,
  ...keepingRoutes,
  ...runningRoutes,
  ...liveRoutes,
  ...searchRoutes,
  ...peopleRoutes,
  ...availabilityRoutes,
  ...eventsRoutes,
  ...attachmentsRoutes,
  ...commentsRoutes,
  ...calendarRoutes,
  ...preferencesRoutes,
  ...lineUpsRoutes,
  ...invitationsRoutes,
  ...incomingRoutes,
  ...guestRoutes,
  ...remindersRoutes,
  ...notificationsRoutes,
  ...delegatesRoutes,
  ...placesRoutes,
  ...bookingsRoutes,
  ...closuresRoutes,
  ...catalogueRoutes,
  ...changesRoutes,
  ...waitingRoutes,
  ...ledgerRoutes,
  // A stand-in: what it would be about stands outside.
  ...mailroomRoutes,
};
export type Routes = typeof ROUTES;
