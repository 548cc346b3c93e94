import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { BoardPlace, BoardResponse } from '../../contract/places.ts';
import { callApi, errorText } from '../client/index.ts';
import { tellUser } from '../design/notices.ts';

/** Puts a place among my favourites, which stand first on the board, or leaves it out; shown at once. */
export function useFavourite(): (place: BoardPlace) => void {
  const client = useQueryClient();
  const boards = { queryKey: ['GET /api/places/board'] };
  const show = (id: number, isFavourite: boolean) =>
    client.setQueriesData<BoardResponse>(
      boards,
      (before) =>
        before && {
          ...before,
          places: before.places.map((one) => (one.id === id ? { ...one, isFavourite } : one)),
        },
    );
  const change = useMutation({
    mutationFn: ({ id, isFavourite }: BoardPlace) =>
      isFavourite
        ? callApi('DELETE /api/places/:id/favourite', { params: { id } })
        : callApi('PUT /api/places/:id/favourite', { params: { id } }),
    onMutate: ({ id, isFavourite }) => show(id, !isFavourite),
    onError: (error, { id, isFavourite }) => {
      show(id, isFavourite);
      tellUser(errorText(error));
    },
    onSettled: () => client.invalidateQueries(boards),
  });
  return (place) => change.mutate(place);
}
