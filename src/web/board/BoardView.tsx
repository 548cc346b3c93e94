import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { answerTo, Failure, useShown } from '../client/index.ts';
import { Outline } from '../design/states.tsx';
import { PlacesWays } from '../places/index.ts';
import { Board } from './Board.tsx';
import { BoardSentence } from './BoardSentence.tsx';
import { useBoardAddress, type BoardAddress } from './useBoardAddress.ts';

/** What is free, who has it: many places over a day, or one over a week or a fortnight. */
export function BoardView() {
  const address = useBoardAddress();
  const query = useBoard(address);
  const board = query.data;
  return (
    <main className="flex flex-1 flex-col">
      <div className="relative flex flex-wrap items-center gap-x-6 gap-y-1 px-6 pt-2 pb-1 max-sm:px-3 max-sm:gap-y-0 max-sm:pt-1 max-sm:px-3">
        <h1 className="sr-only">Places: the board</h1>
        <BoardSentence address={address} board={board} />
        <span className="ml-auto max-sm:order-first max-sm:ml-0">
          <PlacesWays at="board" />
        </span>
      </div>
      {query.isPending && (
        <div className="px-6">
          <Outline what="the places" rows={12} />
        </div>
      )}
      {query.isError && (
        <div className="px-6 py-3">
          <Failure error={query.error} retry={() => void query.refetch()} />
        </div>
      )}
      {board && (
        <div
          aria-busy={query.isPlaceholderData}
          className={query.isPlaceholderData ? 'pointer-events-none opacity-60' : ''}
        >
          <Board board={board} address={address} />
        </div>
      )}
    </main>
  );
}

function useBoard({ date, days, kinds, siteId, place }: BoardAddress) {
  useShown(['resource:all']);
  const query =
    place !== null
      ? { date, place, days }
      : { date, kind: kinds.join(','), site: siteId ?? undefined };
  return useQuery({
    ...answerTo('GET /api/places/board', { query }),
    placeholderData: keepPreviousData,
  });
}
