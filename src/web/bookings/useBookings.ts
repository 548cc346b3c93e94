import { useMutation, useQuery } from '@tanstack/react-query';
import type { DecideRequest, MyBooking } from '../../contract/bookings.ts';
import { formatHours, formatNear } from '../../core/time/format.ts';
import {
  answerTo,
  callApi,
  errorText,
  may,
  offerUndo,
  useChanged,
  useMe,
  useNow,
} from '../client/index.ts';
import { tellUser } from '../design/notices.ts';

/** Read again so often, since what can be done changes with the time. */
const EVERY_MS = 60_000;

/** What stands in my calendar of places that wait for somebody to check in. */
export const useMyBookings = () =>
  useQuery({
    ...answerTo('GET /api/bookings/mine'),
    refetchInterval: EVERY_MS,
  });

/** What waits for a steward to agree; of nobody else it is asked. */
export function usePlaceRequests() {
  const me = useMe();
  return useQuery({
    ...answerTo('GET /api/bookings/requests'),
    enabled: may(me, 'look-after'),
  });
}

/** Reads again what shows who is where. */
function useRefresh() {
  const changed = useChanged();
  return () => changed('calendar', 'resource');
}

/** Checks in to a booking, or leaves it; what was left can be taken up again by undo. */
export function usePresence({ eventId, occurrence, placeId, place, zone, end }: MyBooking) {
  const me = useMe();
  const now = useNow();
  const refresh = useRefresh();
  const send = (what: 'check-in' | 'check-out') =>
    callApi(`POST /api/bookings/${what}`, { body: { eventId, occurrence, placeId } });
  const comeBack = async () => {
    try {
      await send('check-in');
      tellUser(`${place} is yours again, until ${formatNear(end, now, me)}.`);
    } catch (error) {
      tellUser(errorText(error));
    }
    await refresh();
  };
  return useMutation({
    mutationFn: send,
    onSuccess: async (answer, what) => {
      if (what === 'check-in') tellUser(`You are in ${place}.`);
      else
        offerUndo(
          `${place} is free for others, ${formatHours({ start: answer.leftAt!, end }, zone, me.clock)}.`,
          comeBack,
        );
      await refresh();
    },
    onError: (error) => tellUser(errorText(error)),
  });
}

/** Agrees to what is asked for, or does not. */
export function useDecide(about: string, holder: string) {
  const refresh = useRefresh();
  return useMutation({
    mutationFn: (request: DecideRequest) =>
      callApi('POST /api/bookings/requests/decide', { body: request }),
    onSuccess: (_, { agreed }) =>
      tellUser(
        agreed ? `${holder} has ${about}.` : `${holder} is told that ${about} is not theirs.`,
      ),
    onError: (error) => tellUser(errorText(error)),
    onSettled: refresh,
  });
}
