import { availabilityRoutes } from '../../contract/availability.ts';
import { implement } from '../http/index.ts';
import { refreshPublished } from '../published/index.ts';
import { pastMeetings } from './history.ts';
import { movableMeetings } from './ownMeetings.ts';
import { busyTimes, findOpenings, readRoomTimes, visiblePeople } from './service.ts';

export const availabilityApi = implement(availabilityRoutes, (platform) => {
  const { pool } = platform;
  return {
    'POST /api/availability/busy': ({ actor, body, now }) => busyTimes(pool, actor, body, now),
    'POST /api/availability/rooms': ({ actor, body, now }) => readRoomTimes(pool, actor, body, now),
    'POST /api/availability/movable': ({ actor, body, now }) =>
      movableMeetings(pool, actor, body, now),
    'POST /api/availability/history': ({ actor, body, now }) =>
      pastMeetings(pool, actor, body.people, now),
    'POST /api/availability/refresh': async ({ actor, body }) =>
      refreshPublished(platform, await visiblePeople(pool, actor, body.people)),
    'POST /api/availability/openings': ({ actor, body, now }) =>
      findOpenings(pool, actor, body, now),
  };
});
