import { RESOURCE_KINDS } from '../../contract/resourceKind.ts';
import { Popover } from 'radix-ui';
import { type BoardResponse } from '../../contract/places.ts';
import { excluders, fitting } from '../../core/booking/wishes.ts';
import { counted } from '../../core/counted.ts';
import { formatDay } from '../../core/time/format.ts';
import { Button, TextInput } from '../design/controls.tsx';
import { Select } from '../design/Select.tsx';
import {
  DaySteps,
  Features,
  KIND_NAMES,
  Opened,
  Sentence,
  SiteWord,
  SizeWord,
  Wishing,
} from '../places/index.ts';
import { conditionWords } from './rows.ts';
import type { BoardAddress } from './useBoardAddress.ts';
import { useFavourite } from './useFavourite.ts';

const SETS: { value: string; words: string }[] = [
  { value: 'room,lab', words: 'Rooms and labs' },
  ...RESOURCE_KINDS.map((value) => ({ value, words: KIND_NAMES[value] })),
  { value: RESOURCE_KINDS.join(','), words: 'Everything' },
];

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
  const floors = [
    ...new Set([...places.map((one) => one.floor), wishes.floor ?? ''].filter(Boolean)),
  ].sort();
  const { fit } = fitting(places, wishes);
  const one = address.place !== null ? places[0] : undefined;
  const favour = useFavourite();
  const day = formatDay(Date.parse(`${date}T12:00Z`), 'UTC');
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
      <Sentence>
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
            <SiteWord
              value={address.siteId}
              sites={board?.sites ?? []}
              onChange={(site) =>
                change({ site: site === null ? 'all' : String(site), floor: null })
              }
            />
            <Wishing isSet={wishes.seats > 1 || wishes.features.length > 0 || !!wishes.floor}>
              {(floors.length > 1 || !!wishes.floor) && (
                <>
                  {', '}
                  <Select<string | null>
                    look="word"
                    question="Floor"
                    value={wishes.floor ?? null}
                    onChange={(floor) => change({ floor })}
                    options={[
                      { value: null, words: 'any floor' },
                      ...floors.map((value) => ({ value, words: `floor ${value}` })),
                    ]}
                  />
                </>
              )}{' '}
              for{' '}
              <SizeWord
                value={wishes.seats}
                onChange={(seats) => change({ seats: seats > 1 ? String(seats) : null })}
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
      </Sentence>
      <span className="flex items-center max-sm:absolute max-sm:top-1 max-sm:right-2">
        <DaySteps date={date} days={address.days} onChange={(next) => change({ date: next })} />
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
          <>
            <TextInput
              key={address.wishes.text === '' ? 'none' : 'some'}
              type="search"
              aria-label="Name, description or feature"
              placeholder="Name or feature"
              className="w-36 max-sm:w-32"
              maxLength={100}
              defaultValue={wishes.text}
              onChange={({ target: { value } }) => change({ q: value.trim() || null }, true)}
            />
            <span className="text-ink-2" role="status">
              {fit.length} of {places.length} {fit.length === 1 ? 'fits' : 'fit'}
              {board.total > places.length && `, of ${board.total} in all`}
              {fit.length < places.length && <WhyNot address={address} board={board} />}
            </span>
          </>
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
                condition.kind === 'feature'
                  ? { with: wishes.features.filter((one) => one !== condition.feature).join(',') }
                  : { [condition.kind === 'text' ? 'q' : condition.kind]: null },
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
