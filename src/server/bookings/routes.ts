import { bookingsRoutes } from '../../contract/bookings.ts';
import { implement } from '../http/index.ts';
import { readContact } from '../reservations/index.ts';
import { changeNote, noteOn } from './notes.ts';
import { arrive, leave, myBookings } from './presence.ts';
import { decide, placeRequests } from './requests.ts';

export const bookingsApi = implement(bookingsRoutes, (platform) => {
  const { pool } = platform;
  return {
    'GET /api/bookings/mine': async ({ actor, now }) => ({
      bookings: await myBookings(pool, actor, now),
    }),
    'POST /api/bookings/check-in': (tx, { actor, body }) => arrive(tx, platform, actor, body),
    'POST /api/bookings/check-out': (tx, { actor, body }) => leave(tx, platform, actor, body),
    'GET /api/bookings/requests': ({ actor, now }) => placeRequests(pool, actor, now),
    'POST /api/bookings/requests/decide': (tx, { actor, body }) =>
      decide(tx, platform, actor, body),
    'GET /api/bookings/contact': async ({ actor }) => ({
      contact: await readContact(pool, actor.me.id),
    }),
    'GET /api/bookings/notes/:id': ({ actor, params }) => noteOn(pool, actor, params.id),
    'PUT /api/bookings/notes/:id': (tx, { actor, params, body }) =>
      changeNote(tx, actor, params.id, body),
  };
});
