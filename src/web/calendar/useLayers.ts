import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { ChangeLayerRequest, Layer, NewLayerRequest } from '../../contract/calendar.ts';
import { callApi, answerTo, errorText } from '../client/index.ts';
import { tellUser } from '../design/notices.ts';

const LAYERS = answerTo('GET /api/calendar/layers');
const KEY = LAYERS.queryKey;
interface Layers {
  layers: Layer[];
}

/** The layers I have put over my calendar, and what can be done with them. */
export function useLayers() {
  const client = useQueryClient();
  const query = useQuery(LAYERS);
  /** What was asked for before a change tells nothing of it, however late it comes. */
  const forget = () => client.cancelQueries({ queryKey: KEY });
  const keep = async (answer: Layers) => {
    await forget();
    client.setQueryData(KEY, answer);
  };
  const failed = (error: unknown) => {
    tellUser(errorText(error));
    void client.invalidateQueries({ queryKey: KEY });
  };
  const add = useMutation({
    mutationFn: (request: NewLayerRequest) =>
      callApi('POST /api/calendar/layers', { body: request }),
    onSuccess: keep,
    onError: failed,
  });
  const change = useMutation({
    mutationFn: ({ id, ...request }: ChangeLayerRequest & { id: number }) =>
      callApi('PATCH /api/calendar/layers/:id', { params: { id }, body: request }),
    // Shown at once; the server's answer follows.
    onMutate: async ({ id, ...request }) => {
      await forget();
      client.setQueryData<Layers>(
        KEY,
        (before) =>
          before && {
            layers: before.layers.map((layer) =>
              layer.id === id ? ({ ...layer, ...request } as Layer) : layer,
            ),
          },
      );
    },
    onSuccess: keep,
    onError: failed,
  });
  const remove = useMutation({
    mutationFn: (id: number) => callApi('DELETE /api/calendar/layers/:id', { params: { id } }),
    onSuccess: keep,
    onError: failed,
  });
  return {
    layers: query.data?.layers ?? [],
    add: add.mutate,
    change: change.mutate,
    remove: remove.mutate,
  };
}
