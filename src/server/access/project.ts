import type { LayerItem } from '../../contract/calendar.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { PlaceBooking } from '../../contract/places.ts';
import {
  mayChange,
  showsEverything,
  showsTitle,
  type SharingLevel,
} from '../../core/availability/busy.ts';
import type { ReservationState } from '../../core/booking/presence.ts';
import type { PersonActor } from '../actions/index.ts';
import type { SharedFacts, Levels } from './levels.ts';
import { reveal, type Unprojected } from './unprojected.ts';

/** An event with all that its organizer may see of it. */
export type WholeDetail = Omit<
  EventDetail,
  'canChange' | 'canCancel' | 'canInvite' | 'listsAll' | 'myReply'
>;

/**
 * An event as an actor may see it; null when it may not be read, which looks as if it were not there.
 * Notes of replies and other times asked for are for whoever may change the event, and for whose they
 * are. Who else is asked is for those who may see the list.
 */
export function projectDetail(
  read: Unprojected<WholeDetail>,
  { level, asOrganizer }: { level: SharingLevel; asOrganizer: SharingLevel },
  actor: PersonActor,
): EventDetail | null {
  if (!showsEverything(level)) return null;
  const detail = reveal(read);
  const canChange = mayChange(level);
  const { id } = actor.me;
  const isMine = (personId: number | null) => personId !== null && personId === id;
  const isOurs = (personId: number | null) =>
    personId !== null && actor.principals.includes(personId);
  const listsAll = canChange || detail.rights.list;
  return {
    ...detail,
    attendees: detail.attendees
      .filter((one) => listsAll || one.role === 'organizer' || isOurs(one.personId))
      .map((one) =>
        canChange || isOurs(one.personId) ? one : { ...one, note: '', proposals: [] },
      ),
    canChange,
    canCancel: mayChange(asOrganizer),
    canInvite:
      canChange || (detail.rights.invite && detail.attendees.some((one) => isOurs(one.personId))),
    listsAll,
    myReply: detail.attendees.find((one) => isMine(one.personId))?.reply ?? null,
  };
}

/** A booking of a resource as it stands, texts and all. */
export interface BookingRow extends SharedFacts {
  eventId: string;
  /** Which date of a series; null for what happens once. */
  occurrence: string | null;
  resourceId: number;
  unit: number;
  start: number;
  end: number;
  title: Unprojected<string>;
  organizer: Unprojected<string>;
  /** Whether the actor organizes it. */
  mine: boolean;
  state: ReservationState;
}

/** A booking as far as the actor may see it: that it is taken, then by whom, then what for. */
export function projectBooking(row: BookingRow, levels: Levels): PlaceBooking {
  const level = levels.event(row);
  const title = showsTitle(level);
  return {
    eventId: showsEverything(level) ? row.eventId : null,
    occurrence: showsEverything(level) ? row.occurrence : null,
    start: row.start,
    end: row.end,
    unit: row.unit,
    title: title ? reveal(row.title) : null,
    holder: levels.seesHolder(row) ? reveal(row.organizer) : null,
    mine: row.mine,
    state: row.state,
  };
}

/**
 * An event on somebody's layer: its own level decides, and that on the layer's calendar, so that a
 * layer shows no more than either its person or the organizer shares.
 * @param shown whether titles are shown on this layer at all; a resource's always
 */
export function projectLayerItem(
  item: Omit<LayerItem, 'title' | 'place'> & { eventId: string } & {
    [Text in 'title' | 'place']: Unprojected<LayerItem[Text]>;
  },
  level: SharingLevel,
  shown: boolean,
): LayerItem {
  const title = shown && showsTitle(level);
  const open = title && showsEverything(level);
  return {
    ...item,
    eventId: open ? item.eventId : null,
    recurrenceId: open ? item.recurrenceId : null,
    title: title ? reveal(item.title) : null,
    place: title ? reveal(item.place) : null,
  };
}
