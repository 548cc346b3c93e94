import { useMutation, useQuery } from '@tanstack/react-query';
import type {
  ChangePlaceRequest,
  ImportRequest,
  NewPlaceRequest,
  PlacePreview,
  PlacePreviewRequest,
} from '../../contract/catalogue.ts';
import type { LogEntry } from '../../contract/changes.ts';
import { counted } from '../../core/counted.ts';
import {
  callApi,
  answerTo,
  offerUndo,
  takeChangesBack,
  undoable,
  useChanged,
  usePages,
} from '../client/index.ts';
import { tellUser } from '../design/notices.ts';

/** Sites, teams and features to choose from. */
export const useChoices = () => useQuery(answerTo('GET /api/catalogue/choices'));

function useRefresh() {
  const changed = useChanged();
  return () => changed('resource');
}

/** Adds a place, or changes the one of that id; either is taken back by undo. */
export function useSavePlace(id: number | null, onSaved: (id: number) => void) {
  const refresh = useRefresh();
  return useMutation({
    mutationFn: ({ place, version }: { place: NewPlaceRequest; version: number }) =>
      undoable(savePlace(id, place, version)),
    onSuccess: ({ id: saved, change }, { place: { name } }) => {
      const words = id === null ? `${name} can be booked now.` : `${name} is changed.`;
      if (change === null) tellUser(words);
      else offerUndo(words, () => takeChangesBack([change]).then(refresh), [change]);
      onSaved(saved);
    },
    onSettled: refresh,
  });
}

async function savePlace(id: number | null, place: NewPlaceRequest, version: number) {
  if (id === null) return callApi('POST /api/catalogue/places', { body: place });
  const body: ChangePlaceRequest = { ...place, version };
  const { change } = await callApi('PATCH /api/catalogue/places/:id', { params: { id }, body });
  return { id, change };
}

const entriesOf = ({ entries }: { entries: readonly LogEntry[] }) => entries;

/** What was done to a place, the latest first. */
export const usePlaceLog = (place: number) => usePages('GET /api/changes', { place }, entriesOf);

/** Takes one of those changes back. */
export function useTakeBack() {
  const refresh = useRefresh();
  return useMutation({
    mutationFn: (change: number) => undoable(takeChangesBack([change])),
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
      undoable(callApi('POST /api/catalogue/import', { body: request })),
    onSuccess: ({ added, changed, retired, changes }, { check }) => {
      if (check !== false) return;
      const gone = retired > 0 ? `, ${retired} retired` : '';
      const words = `${counted(added, 'place')} added, ${changed} changed${gone}.`;
      offerUndo(words, () => takeChangesBack(changes).then(refresh), changes);
      void refresh();
    },
  });
}
