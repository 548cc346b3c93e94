import { Popover } from 'radix-ui';
import { RESOURCE_KINDS, type BoardResponse } from '../../contract/places.ts';
import { excluders, fitting } from '../../core/booking/wishes.ts';
import { counted } from '../../core/counted.ts';
import { formatDay } from '../../core/time/format.ts';
import { addDays } from '../../core/time/wall.ts';
import { Button, IconButton } from '../design/controls.tsx';
import { Select } from '../design/Select.tsx';
import { Features, KIND_NAMES, Opened, Wishing } from '../places/index.ts';
import { PickDay } from '../time/index.ts';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { conditionWords } from './rows.ts';
import type { BoardAddress } from './useBoardAddress.ts';
import { useFavourite } from './useFavourite.ts';

const SETS: { value: string; words: string }[] = [
  { value: 'room,lab', words: 'Rooms and labs' },
  ...RESOURCE_KINDS.map((value) => ({ value, words: KIND_NAMES[value] })),
  { value: RESOURCE_KINDS.join(','), words: 'Everything' },
];
const SIZES = [1, 2, 4, 6, 8, 10, 12, 20, 40];

/** What is looked for, as a sentence whose parts can be changed, and how many fit. */
export function BoardSentence({
  address,
  board,
}: {
  address: BoardAddress;
  board?: BoardResponse | undefined;
}) {
  const { wishes, change, date } = address;
  const places = board?.places ?? [];
  const features = [...new Set(places.flatMap((one) => one.features))].sort();
  const { fit } = fitting(places, wishes);
  const one = address.place !== null ? places[0] : undefined;
  const step = address.days;
  const favour = useFavourite();
  const day = formatDay(Date.parse(`${date}T12:00Z`), 'UTC');
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
      <p className="font-head text-[17px] leading-8 font-medium max-sm:text-[15px]">
        {one ? (
          <>
            {one.name} for{' '}
            <Select
              look="word"
              question="How long"
              value={address.days}
              onChange={(days) => change({ days: String(days) })}
              options={[
                { value: 7, words: 'a week' },
                { value: 14, words: 'a fortnight' },
              ]}
            />{' '}
            from {day}
          </>
        ) : (
          <>
            <Select
              look="word"
              question="Kinds"
              value={address.kinds.join(',')}
              onChange={(kind) => change({ kind })}
              options={SETS}
            />{' '}
            at{' '}
            <Select<number | null>
              look="word"
              question="Site"
              value={address.siteId}
              onChange={(site) => change({ site: site === null ? 'all' : String(site) })}
              options={[
                { value: null, words: 'every site' },
                ...(board?.sites ?? []).map(({ id, name }) => ({ value: id, words: name })),
              ]}
            />
            <Wishing isSet={wishes.seats > 1 || wishes.features.length > 0}>
              {' '}
              for{' '}
              <Select
                look="word"
                question="Size"
                value={wishes.seats}
                onChange={(seats) => change({ seats: seats > 1 ? String(seats) : null })}
                options={[...new Set([...SIZES, wishes.seats])].map((seats) => ({
                  value: seats,
                  words: seats === 1 ? 'any number' : `${seats} or more`,
                }))}
              />{' '}
              with{' '}
              <Features
                all={features}
                chosen={wishes.features}
                onChange={(next) => change({ with: next.join(',') })}
              />
            </Wishing>
            , {day}
          </>
        )}
      </p>
      <span className="flex items-center max-sm:absolute max-sm:top-1 max-sm:right-2">
        <IconButton
          small
          label={step > 1 ? 'The days before' : 'The day before'}
          onClick={() => change({ date: addDays(date, -step) })}
        >
          <ChevronLeft size={16} aria-hidden="true" />
        </IconButton>
        <PickDay label="Pick a day" value={date} onPick={(next) => change({ date: next })} />
        <IconButton
          small
          label={step > 1 ? 'The days after' : 'The day after'}
          onClick={() => change({ date: addDays(date, step) })}
        >
          <ChevronRight size={16} aria-hidden="true" />
        </IconButton>
      </span>
      {one ? (
        <span className="flex flex-wrap gap-x-2">
          <Button look="quiet" onClick={() => change({ place: null, days: null })}>
            All places that day
          </Button>
          <Button look="quiet" aria-pressed={one.isFavourite} onClick={() => favour(one)}>
            {one.isFavourite ? 'Leave it out of my favourites' : 'Put it among my favourites'}
          </Button>
        </span>
      ) : (
        board && (
          <span className="text-ink-2">
            {fit.length} of {places.length} {fit.length === 1 ? 'fits' : 'fit'}
            {board.total > places.length && `, of ${board.total} in all`}
            {fit.length < places.length && <WhyNot address={address} board={board} />}
          </span>
        )
      )}
    </div>
  );
}

/** Which condition keeps places out, and what dropping it would give. */
function WhyNot({ address, board }: { address: BoardAddress; board: BoardResponse }) {
  return (
    <>
      {'; '}
      <Popover.Root>
        <Popover.Trigger className="font-semibold text-gentian hover:underline">
          why not the others
        </Popover.Trigger>
        <Opened label="Why not the others">
          <Droppable address={address} board={board} />
        </Opened>
      </Popover.Root>
    </>
  );
}

/** Each condition, with how many places more there would be without it. */
export function Droppable({ address, board }: { address: BoardAddress; board: BoardResponse }) {
  const { wishes, change } = address;
  return (
    <ul className="grid gap-1.5">
      {excluders(board.places, wishes).map(({ condition, gives }) => (
        <li key={JSON.stringify(condition)} className="flex items-center justify-between gap-3">
          <span>
            Without “{conditionWords(condition, wishes.text)}”{' '}
            <span className="text-ink-2">
              {gives === 0 ? 'none more by itself' : `${counted(gives, 'place')} more`}
            </span>
          </span>
          <Button
            onClick={() =>
              change(
                condition.kind === 'seats'
                  ? { seats: null }
                  : condition.kind === 'text'
                    ? { q: null }
                    : {
                        with: wishes.features.filter((one) => one !== condition.feature).join(','),
                      },
              )
            }
          >
            Drop it
          </Button>
        </li>
      ))}
    </ul>
  );
}
