import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type {
  CatalogueChoices,
  ChangePlaceRequest,
  ImportRequest,
  ImportResponse,
  NewPlaceRequest,
  PlacePreview,
  PlacePreviewRequest,
} from '../../contract/catalogue.ts';
import { readApi, sendApi } from '../app/index.ts';

/** Sites, teams and features to choose from. */
export const useChoices = () =>
  useQuery({
    queryKey: ['places', 'choices'],
    queryFn: () => readApi<CatalogueChoices>('/catalogue/choices'),
  });

function useRefresh() {
  const client = useQueryClient();
  return () => client.invalidateQueries({ queryKey: ['places'] });
}

/** Adds a place, or changes the one of that id. */
export function useSavePlace(id: number | null, onSaved: (id: number) => void) {
  const refresh = useRefresh();
  return useMutation({
    mutationFn: async ({ place, version }: { place: NewPlaceRequest; version: number }) => {
      if (id === null) return sendApi<{ id: number }>('POST', '/catalogue/places', place);
      const change: ChangePlaceRequest = { ...place, version };
      await sendApi('PATCH', `/catalogue/places/${id}`, change);
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
        : sendApi<PlacePreview>('POST', `/catalogue/places/${id}/preview`, change),
  });

/** Looks at a file of places, or takes it. */
export function useImport() {
  const refresh = useRefresh();
  return useMutation({
    mutationFn: (request: ImportRequest) =>
      sendApi<ImportResponse>('POST', '/catalogue/import', request),
    onSuccess: (_, { check }) => (check === false ? refresh() : undefined),
  });
}
