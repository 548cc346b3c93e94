import { useMutation, useQuery } from '@tanstack/react-query';
import type { RetireRequest } from '../../contract/catalogue.ts';
import type { ClosureRequest, ClosureResponse } from '../../contract/closures.ts';
import type { Interval } from '../../core/time/interval.ts';
import {
  callApi,
  answerTo,
  errorText,
  offerUndo,
  takeChangesBack,
  undoable,
  useChanged,
} from '../client/index.ts';
import { tellUser } from '../design/notices.ts';

/**
 * What could become of the bookings of a place while it is out of use, or from now on for good; nothing
 * while no time is asked for.
 */
export const useClosurePreview = (placeId: number, span: Interval | 'for good' | null) =>
  useQuery({
    ...(span === null || span === 'for good'
      ? answerTo('GET /api/catalogue/places/:id/retire', { params: { id: placeId } })
      : answerTo('GET /api/places/:id/closures/preview', {
          params: { id: placeId },
          query: { start: span.start, end: span.end },
        })),
    enabled: span !== null,
  });

function useRefresh() {
  const changed = useChanged();
  return () => changed('calendar', 'resource');
}

type Taken = Pick<ClosureResponse, 'moved' | 'without' | 'change'>;

/**
 * Takes a place out of use, or retires it, and moves what stands in it; either is taken back by undo, with
 * all that was moved.
 */
export function useTakeOutOfUse(
  placeId: number,
  wordsOf: (done: Pick<ClosureResponse, 'moved' | 'without'>) => string,
  onDone: () => void,
) {
  const refresh = useRefresh();
  return useMutation({
    mutationFn: (request: ClosureRequest | RetireRequest): Promise<Taken> =>
      undoable<Taken>(
        'version' in request
          ? callApi('POST /api/catalogue/places/:id/retire', {
              params: { id: placeId },
              body: request,
            })
          : callApi('POST /api/places/:id/closures', { params: { id: placeId }, body: request }),
      ),
    onSuccess: (done) => {
      onDone();
      offerUndo(wordsOf(done), () => takeChangesBack([done.change]).then(refresh), [done.change]);
    },
    onSettled: refresh,
  });
}

/** A place that nobody can book: by a time out of use, or as it is retired. */
export interface Away {
  placeId: number;
  place: string;
  zone: string;
  /** Null where nothing but that it is retired keeps it from being booked. */
  closureId: number | null;
  isRetired: boolean;
}

/** What went elsewhere with a place and is still to come; asked for when it is put to use again. */
export const useElsewhere = ({ placeId, closureId }: Away) =>
  useQuery({
    ...answerTo('GET /api/places/:id/closures/:closure/elsewhere', {
      params: { id: placeId, closure: closureId ?? 0 },
    }),
    enabled: false,
  });

/** Puts a place to use again before its time, or brings back a retired one: alone, or with what went elsewhere. */
export function useReopen({ placeId, place, closureId, isRetired }: Away) {
  const refresh = useRefresh();
  const alone = useMutation({
    mutationFn: (): Promise<{ change: number }> =>
      undoable<{ change: number }>(
        isRetired
          ? callApi('POST /api/catalogue/places/:id/return', { params: { id: placeId }, body: {} })
          : callApi('DELETE /api/places/:id/closures/:closure', {
              params: { id: placeId, closure: closureId! },
            }),
      ),
    onSuccess: ({ change }) =>
      offerUndo(`${place} can be booked again.`, () => takeChangesBack([change]).then(refresh), [
        change,
      ]),
    onError: (error) => tellUser(errorText(error)),
    onSettled: refresh,
  });
  const withBookings = useMutation({
    mutationFn: (change: number) => undoable(takeChangesBack([change])),
    onSettled: refresh,
  });
  return { alone, withBookings };
}
