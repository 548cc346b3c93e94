import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { RetireRequest } from '../../contract/catalogue.ts';
import type {
  Closure,
  ClosurePreview,
  ClosureRequest,
  ClosureResponse,
} from '../../contract/closures.ts';
import type { Interval } from '../../core/time/interval.ts';
import { errorText, readApi, sendApi } from '../app/index.ts';
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

/** Takes a place out of use, or retires it, and moves what stands in it. */
export function useTakeOutOfUse(
  placeId: number,
  onDone: (done: Pick<ClosureResponse, 'moved' | 'without'>) => void,
) {
  const refresh = useRefresh();
  return useMutation({
    mutationFn: (request: ClosureRequest | RetireRequest) =>
      sendApi<Pick<ClosureResponse, 'moved' | 'without'>>(
        'POST',
        'version' in request
          ? `/catalogue/places/${placeId}/retire`
          : `/places/${placeId}/closures`,
        request,
      ),
    onSuccess: onDone,
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
