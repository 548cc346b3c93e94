import type { TakeTimeRequest } from '../../contract/asking.ts';
import { HOUR } from '../../core/time/interval.ts';
import { wallTimeAt } from '../../core/time/wall.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import { changeableMeeting, changeEvent, type Done } from '../events/index.ts';
import { readCatalogue } from '../places/index.ts';
import type { Platform } from '../platform.ts';
import { candidatesFor, comers, meantBy, membersIn, placesAt } from './exchange.ts';

/**
 * Moves a meeting, or one date of it, to another time: places that are taken then are exchanged for
 * the nearest that are free, and everybody is told, in one transaction.
 * @throws Refusal when it was changed meanwhile; ResourcesTaken where no other place would do
 */
export async function takeTime(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: string,
  request: Required<Pick<TakeTimeRequest, 'message' | 'tell'>> & TakeTimeRequest,
): Promise<Done> {
  const { start, end, version, tell, message } = request;
  const now = platform.clock.now();
  const meeting = await changeableMeeting(tx, actor, id);
  const meant = meantBy(meeting, request.occurrence, now);
  const { present, at } = meant;
  const catalogue = present.resources.length ? await readCatalogue(tx, null) : [];
  const candidates = candidatesFor(present.resources, catalogue, comers(meeting.participants));
  const members = await membersIn(tx, { actor, now }, { ...meant, people: false }, candidates, {
    start,
    end,
  });
  const places = placesAt(members, candidates, present.resources, { start, end });
  const resources = present.resources.map((place, k) => {
    const state = places[k]!;
    return typeof state === 'object' ? state.instead.id : place;
  });
  const { zone } = present.timing;
  const wall = wallTimeAt(start, zone);
  return changeEvent(tx, platform, actor, id, {
    version,
    scope: at === null ? 'all' : 'one',
    ...(at !== null && { occurrence: at }),
    times: {
      startsAt: wall,
      endsAt: wallTimeAt(end, present.endZone ?? zone),
      zone,
      endZone: present.endZone,
      fold: wallTimeAt(start - HOUR, zone) === wall ? 'later' : 'earlier',
      allDay: false,
    },
    ...(resources.some((place, k) => place !== present.resources[k]) && { resources }),
    dates: [],
    tell,
    message,
  });
}
