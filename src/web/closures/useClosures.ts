import { useMutation, useQuery } from '@tanstack/react-query';
import type { RetireRequest } from '../../contract/catalogue.ts';
import type { Closure, ClosureRequest, ClosureResponse } from '../../contract/closures.ts';
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

/** Puts a place to use again before its time. */
export function useReopen(place: string) {
  const refresh = useRefresh();
  return useMutation({
    mutationFn: ({ id, placeId }: Closure) =>
      undoable(
        callApi('DELETE /api/places/:id/closures/:closure', {
          params: { id: placeId, closure: id },
        }),
      ),
    onSuccess: ({ change }) =>
      offerUndo(`${place} can be booked again.`, () => takeChangesBack([change]).then(refresh), [
        change,
      ]),
    onError: (error) => tellUser(errorText(error)),
    onSettled: refresh,
  });
}
