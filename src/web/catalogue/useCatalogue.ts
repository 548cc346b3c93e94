import { useMutation, useQuery } from '@tanstack/react-query';
import type {
  ChangePlaceRequest,
  ImportRequest,
  NewPlaceRequest,
  PlacePreview,
  PlacePreviewRequest,
} from '../../contract/catalogue.ts';
import { callApi, answerTo, useChanged } from '../client/index.ts';

/** Sites, teams and features to choose from. */
export const useChoices = () => useQuery(answerTo('GET /api/catalogue/choices'));

function useRefresh() {
  const changed = useChanged();
  return () => changed('resource');
}

/** Adds a place, or changes the one of that id. */
export function useSavePlace(id: number | null, onSaved: (id: number) => void) {
  const refresh = useRefresh();
  return useMutation({
    mutationFn: async ({ place, version }: { place: NewPlaceRequest; version: number }) => {
      if (id === null) return callApi('POST /api/catalogue/places', { body: place });
      const change: ChangePlaceRequest = { ...place, version };
      await callApi('PATCH /api/catalogue/places/:id', { params: { id }, body: change });
      return { id };
    },
    onSuccess: ({ id: saved }) => onSaved(saved),
    onSettled: refresh,
  });
}

/** What a change would do to the bookings of a place. */
export const usePlacePreview = (id: number | null) =>
  useMutation({
    mutationFn: async (change: PlacePreviewRequest): Promise<PlacePreview> =>
      id === null
        ? { against: [], total: 0, impossible: null }
        : callApi('POST /api/catalogue/places/:id/preview', { params: { id }, body: change }),
  });

/** Looks at a file of places, or takes it. */
export function useImport() {
  const refresh = useRefresh();
  return useMutation({
    mutationFn: (request: ImportRequest) =>
      callApi('POST /api/catalogue/import', { body: request }),
    onSuccess: (_, { check }) => (check === false ? refresh() : undefined),
  });
}
