import { useMutation, useQuery } from '@tanstack/react-query';
import type { RetireRequest } from '../../contract/catalogue.ts';
import type { Closure, ClosureRequest, ClosureResponse } from '../../contract/closures.ts';
import type { Interval } from '../../core/time/interval.ts';
import {
  callApi,
  answerTo,
  errorText,
  offerUndo,
  takeBackTogether,
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

/** What came of it: a place out of use for a time can be taken back, one that is retired put back. */
type Taken = Pick<ClosureResponse, 'moved' | 'without'> & Partial<ClosureResponse>;

/**
 * Takes a place out of use, or retires it, and moves what stands in it; out of use for a time is taken
 * back by undo, with all that was moved.
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
      const { closure, undo } = done;
      if (!closure || !undo) return tellUser(wordsOf(done));
      offerUndo(wordsOf(done), async () => {
        await takeBackTogether(
          callApi('POST /api/places/:id/closures/:closure/undo', {
            params: { id: placeId, closure: closure.id },
            body: { changes: undo },
          }),
        );
        await refresh();
      });
    },
    onSettled: refresh,
  });
}

/** Puts a place to use again before its time. */
export function useReopen(place: string) {
  const refresh = useRefresh();
  return useMutation({
    mutationFn: ({ id, placeId }: Closure) =>
      callApi('DELETE /api/places/:id/closures/:closure', { params: { id: placeId, closure: id } }),
    onSuccess: () => tellUser(`${place} can be booked again.`),
    onError: (error) => tellUser(errorText(error)),
    onSettled: refresh,
  });
}
