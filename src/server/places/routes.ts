import { placesRoutes } from '../../contract/places.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import { implement } from '../http/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import { giveFree, setOwner, takeFreeDayBack } from './assigned.ts';
import { placesBoard } from './board.ts';
import { placesFound } from './find.ts';
import { removePhoto, sendPhoto, takePhoto } from './photo.ts';
import { deleteFavourite } from './queries.ts';
import { addFavourite, readPlaceDay, placeNow, placesNow } from './service.ts';

const announceOwn = (tx: Transaction, { me }: PersonActor) =>
  announce(tx, [subjectOf('person', me.id)]);

export const placesApi = implement(placesRoutes, (platform) => {
  const { pool } = platform;
  return {
    'GET /api/places': ({ actor, query, now }) => placesNow(pool, actor, query, now),
    'GET /api/places/board': ({ actor, query }) => placesBoard(pool, actor, query),
    'GET /api/places/find': ({ actor, query, now }) => placesFound(pool, actor, query, now),
    'GET /api/places/:id': ({ actor, params, now }) => placeNow(pool, actor, params.id, now),
    'GET /api/places/:id/day': ({ actor, params, query }) =>
      readPlaceDay(pool, actor, params.id, query.date),
    'PUT /api/places/:id/favourite': async (tx, { actor, params }) => {
      await addFavourite(tx, actor.me.id, params.id);
      announceOwn(tx, actor);
      return { isFavourite: true };
    },
    'DELETE /api/places/:id/favourite': (tx, { actor, params }) => {
      deleteFavourite(tx, actor.me.id, params.id);
      announceOwn(tx, actor);
      return { isFavourite: false };
    },
    'PUT /api/places/:id/owner': async (tx, { actor, params, body, now }) => {
      await setOwner(tx, platform, actor, params.id, body.personId);
      return placeNow(tx, actor, params.id, now);
    },
    'PUT /api/places/:id/free-days/:date': async (tx, { actor, params, now }) => {
      await giveFree(tx, actor, params.id, params.date, now);
      return { isFree: true };
    },
    'DELETE /api/places/:id/free-days/:date': async (tx, { actor, params }) => {
      await takeFreeDayBack(tx, actor, params.id, params.date);
      return { isFree: false };
    },
    'GET /api/places/:id/photo': ({ params, ctx }) => sendPhoto(ctx, platform, params.id),
    'POST /api/places/:id/photo': ({ params, ctx }) => takePhoto(ctx, platform, params.id),
    'DELETE /api/places/:id/photo': async (tx, { actor, params }) => {
      await removePhoto(tx, platform, actor, params.id);
      return { photo: null };
    },
  };
});
