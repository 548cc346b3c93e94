import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { RetireRequest } from '../../contract/catalogue.ts';
import type {
  Closure,
  ClosurePreview,
  ClosureRequest,
  ClosureResponse,
} from '../../contract/closures.ts';
import type { Interval } from '../../core/time/interval.ts';
import {
  errorText,
  offerUndo,
  readApi,
  sendApi,
  takeBackTogether,
  undoable,
} from '../app/index.ts';
import { tellUser } from '../design/notices.ts';

/**
 * What could become of the bookings of a place while it is out of use, or from now on for good; nothing
 * while no time is asked for.
 */
export const useClosurePreview = (placeId: number, span: Interval | 'for good' | null) =>
  useQuery({
    queryKey: ['places', 'closure', placeId, JSON.stringify(span)],
    queryFn: () =>
      readApi<ClosurePreview>(
        span === 'for good'
          ? `/catalogue/places/${placeId}/retire`
          : `/places/${placeId}/closures/preview?start=${span!.start}&end=${span!.end}`,
      ),
    enabled: span !== null,
  });

function useRefresh() {
  const client = useQueryClient();
  return () =>
    Promise.all(
      ['places', 'calendar'].map((name) => client.invalidateQueries({ queryKey: [name] })),
    );
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
    mutationFn: (request: ClosureRequest | RetireRequest) =>
      undoable(
        sendApi<Taken>(
          'POST',
          'version' in request
            ? `/catalogue/places/${placeId}/retire`
            : `/places/${placeId}/closures`,
          request,
        ),
      ),
    onSuccess: (done) => {
      onDone();
      const { closure, undo } = done;
      if (!closure || !undo) return tellUser(wordsOf(done));
      offerUndo(wordsOf(done), async () => {
        await takeBackTogether(`/places/${placeId}/closures/${closure.id}/undo`, undo);
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
      sendApi('DELETE', `/places/${placeId}/closures/${id}`, {}),
    onSuccess: () => tellUser(`${place} can be booked again.`),
    onError: (error) => tellUser(errorText(error)),
    onSettled: refresh,
  });
}
