import { useMutation, useQuery } from '@tanstack/react-query';
import type { Waited, WaitRequest } from '../../contract/waiting.ts';
import { callApi, answerTo, errorText, useChanged } from '../client/index.ts';
import { tellUser } from '../design/notices.ts';

/** What I wait for. */
export const useWaited = () => useQuery(answerTo('GET /api/waiting'));

function useRefresh() {
  const changed = useChanged();
  return () => changed('person', 'calendar', 'resource');
}

/** Begins to wait for a place. */
export function useWait() {
  const refresh = useRefresh();
  return useMutation({
    mutationFn: (request: WaitRequest) => callApi('POST /api/waiting', { body: request }),
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
    mutationFn: (what: 'take' | 'leave'): Promise<unknown> =>
      what === 'take'
        ? callApi('POST /api/waiting/:id/take', { params: { id } })
        : callApi('DELETE /api/waiting/:id', { params: { id } }),
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
