import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { Waited, WaitedResponse, WaitRequest } from '../../contract/waiting.ts';
import { errorText, readApi, sendApi } from '../app/index.ts';
import { tellUser } from '../design/notices.ts';

/** What I wait for. */
export const useWaited = () =>
  useQuery({
    queryKey: ['waiting'],
    queryFn: () => readApi<WaitedResponse>('/waiting'),
  });

function useRefresh() {
  const client = useQueryClient();
  return () =>
    Promise.all(
      ['waiting', 'calendar', 'places'].map((name) =>
        client.invalidateQueries({ queryKey: [name] }),
      ),
    );
}

/** Begins to wait for a place. */
export function useWait() {
  const refresh = useRefresh();
  return useMutation({
    mutationFn: (request: WaitRequest) => sendApi('POST', '/waiting', request),
    onSuccess: (_, { wants }) =>
      tellUser(
        wants === 'told'
          ? 'You are told when it comes free, and have an hour to take it.'
          : 'It is yours as soon as it comes free.',
      ),
    onError: (error) => tellUser(errorText(error)),
    onSettled: refresh,
  });
}

/** Takes what came free, or waits no more. */
export function useSettle({ id, place, offeredUntil }: Waited) {
  const refresh = useRefresh();
  return useMutation({
    mutationFn: (what: 'take' | 'leave') =>
      what === 'take'
        ? sendApi('POST', `/waiting/${id}/take`, {})
        : sendApi('DELETE', `/waiting/${id}`, {}),
    onSuccess: (_, what) =>
      tellUser(
        what === 'take'
          ? `${place} is yours.`
          : offeredUntil === null
            ? `You do not wait for ${place} any more.`
            : `${place} goes to whoever waits next.`,
      ),
    onError: (error) => tellUser(errorText(error)),
    onSettled: refresh,
  });
}
