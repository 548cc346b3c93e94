import { counted } from '../../core/counted.ts';
import { useMutation } from '@tanstack/react-query';
import type { EventDetail, MadeEvent } from '../../contract/eventDetail.ts';
import type { CreateEventRequest } from '../../contract/events.ts';
import { callApi, errorText, offerUndo, useChanged, useMe } from '../client/index.ts';
import { tellUser } from '../design/notices.ts';
import { bothClocks } from './clocks.ts';

/** Books places without a meeting, all or none; it says so, and is given back by undo. */
export function useBooking(zone: string, onBooked: (event: EventDetail) => void) {
  const me = useMe();
  const changed = useChanged();
  const refresh = () => changed('calendar', 'resource');
  const giveBack = async (event: MadeEvent) => {
    try {
      await (event.bookings
        ? callApi('POST /api/ledger/change', {
            body: {
              bookings: event.bookings,
              change: { kind: 'give-back' },
            },
          })
        : callApi('POST /api/events/:id/cancel', {
            params: { id: event.id },
            body: {
              version: event.version,
              tell: 'nobody',
            },
          }));
      tellUser(`${placesOf(event)} ${event.resources.length > 1 ? 'are' : 'is'} given back.`);
    } catch (error) {
      tellUser(errorText(error));
    }
    await refresh();
  };
  return useMutation({
    mutationFn: (request: CreateEventRequest) => callApi('POST /api/events', { body: request }),
    onSuccess: (event, { dates = [] }) => {
      onBooked(event);
      void refresh();
      const { organizer } = event;
      const whose = organizer.id === me.id ? 'yours' : `${organizer.name.split(' ')[0]}’s`;
      const verb = event.resources.length > 1 ? 'are' : 'is';
      const rhythm = event.series?.sentence;
      const others = [
        [dates.filter((one) => one.do === 'instead').length, 'in another place'],
        [dates.filter((one) => one.do === 'without').length, 'without a place'],
        [dates.filter((one) => one.do === 'move').length, 'at another time'],
        [dates.filter((one) => one.do === 'leave-out').length, 'left out'],
      ] as const;
      const but = others
        .filter(([count]) => count > 0)
        .map(([count, words]) => `${counted(count, 'date')} ${words}`);
      const times = [
        bothClocks(event, zone, me),
        rhythm && `, ${rhythm[0]!.toLowerCase()}${rhythm.slice(1)}`,
        but.length > 0 && ` (${but.join(', ')})`,
      ]
        .filter(Boolean)
        .join('');
      const asked = event.resources.some((one) => one.isAsked);
      offerUndo(
        asked
          ? `${placesOf(event)} ${verb} held, ${times}, until a steward agrees.`
          : `${placesOf(event)} ${verb} ${whose}, ${times}.`,
        () => giveBack(event),
      );
    },
  });
}

const placesOf = ({ resources }: EventDetail): string => {
  const names = resources.map((one) => one.name);
  return names.length > 1 ? `${names.slice(0, -1).join(', ')} and ${names.at(-1)}` : names.join('');
};
