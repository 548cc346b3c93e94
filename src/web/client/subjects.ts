import type { LiveSubjectKind } from '../../contract/live.ts';
import type { Routes } from '../../contract/routes.ts';

/** Routes that read, and whose answers are kept. */
export type ReadRoute =
  | Extract<keyof Routes, `GET ${string}`>
  | Extract<keyof Routes, `POST /api/availability/${string}`>;

/**
 * The kinds of subjects that an answer shows: when one of them changes, it is read again. Every route that
 * reads is here, those that show nothing that changes, too.
 */
export const SHOWS: Record<ReadRoute, readonly LiveSubjectKind[]> = {
  'GET /api/health': [],
  'GET /api/session': ['person'],
  'GET /api/live': [],
  'GET /api/search': [],
  'GET /api/search/names': [],
  'GET /api/people': [],
  'POST /api/availability/busy': ['calendar', 'resource', 'person'],
  'POST /api/availability/rooms': ['calendar', 'resource', 'person'],
  'POST /api/availability/movable': ['calendar', 'person'],
  'POST /api/availability/history': ['calendar', 'person'],
  'POST /api/availability/refresh': [],
  'POST /api/availability/openings': ['calendar', 'resource', 'person'],
  'GET /api/events/:id': ['calendar', 'meeting', 'person'],
  'GET /api/events/:id/attachments/:attachment': [],
  'GET /api/events/:id/comments': ['meeting'],
  'GET /api/calendar': ['calendar', 'resource', 'person'],
  'GET /api/calendar/fullness': ['calendar', 'person'],
  'GET /api/calendar/holidays': ['person'],
  'GET /api/calendar/search': ['calendar', 'person'],
  'GET /api/calendar/cancelled': ['calendar', 'person'],
  'GET /api/calendar/layers': ['calendar', 'person'],
  'GET /api/categories': ['calendar', 'person'],
  'GET /api/line-ups': ['person'],
  'GET /api/invitations': ['calendar', 'meeting'],
  'GET /api/invitations/:id': ['calendar', 'meeting'],
  'GET /api/invitations/:id/days': [],
  'GET /api/replies': ['calendar', 'meeting'],
  'GET /api/replies/:id/history': ['calendar', 'meeting'],
  'GET /api/replies/:id/times': ['calendar', 'meeting'],
  'GET /api/replies/:id/aside': ['calendar', 'meeting'],
  'GET /api/incoming': ['notifications'],
  'GET /api/guest/:token': [],
  'GET /api/guest/:token/days': [],
  'GET /api/guest/:token/calendar': [],
  'GET /api/reminders': ['reminders'],
  'GET /api/notifications': ['notifications'],
  'GET /api/delegates': ['person'],
  'GET /api/places': ['resource'],
  'GET /api/places/board': ['resource', 'person'],
  'GET /api/places/find': ['resource'],
  'GET /api/places/:id': ['resource'],
  'GET /api/places/:id/day': ['resource'],
  'GET /api/places/:id/photo': [],
  'GET /api/bookings/mine': ['calendar', 'resource', 'notifications'],
  'GET /api/bookings/requests': ['calendar', 'resource', 'notifications'],
  'GET /api/bookings/contact': [],
  'GET /api/bookings/notes/:id': ['calendar', 'resource', 'notifications'],
  'GET /api/places/:id/closures/preview': ['resource'],
  'GET /api/catalogue/choices': ['resource'],
  'GET /api/changes': ['resource'],
  'GET /api/catalogue/places/:id/retire': ['resource'],
  'GET /api/waiting': ['person'],
  'GET /api/ledger': ['resource'],
  'GET /api/ledger/bookings.csv': [],
  'GET /api/ledger/bookings.ics': [],
  'GET /api/ledger/views': ['person'],
  'GET /api/mailroom': ['mailroom'],
  'GET /api/mailroom/:id': ['mailroom'],
  'GET /api/mailroom/:id/letter': [],
  'GET /api/mailroom/:id/source': [],
};
