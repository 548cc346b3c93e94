import { titleOfBooking } from '../../core/meetings/ownTitle.ts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { ANY_TIME, type FindCondition } from '../../core/booking/finding.ts';
import type { FindResponse, FoundPlaceRow } from '../../contract/places.ts';
import { counted } from '../../core/counted.ts';
import { givenName } from '../../core/planner/words.ts';
import { formatDay, formatHours, zoneCity } from '../../core/time/format.ts';
import { addDays, wallTimeAt } from '../../core/time/wall.ts';
import { answerTo, errorText, Failure, useMe, useShown } from '../client/index.ts';
import { Button, TextInput } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { Empty, Outline } from '../design/states.tsx';
import { placeFacts } from './facts.ts';
import { FindSentence } from './FindSentence.tsx';
import { PlacesWays } from './PlacesWays.tsx';
import { useBooking } from './useBooking.ts';
import { useFindAddress, type FindAddress } from './useFindAddress.ts';

/** What can be had, when and where: places of a kind that suit, free ones first, each had by one click. */
export function FindView() {
  const address = useFindAddress();
  useShown(['resource:all']);
  const query = useQuery({
    ...answerTo('GET /api/places/find', { query: address.query }),
    placeholderData: keepPreviousData,
  });
  const names = useQuery({
    ...answerTo('GET /api/search/names'),
    staleTime: 300_000,
    enabled: address.near.length > 0,
  });
  const people = address.near.map((id) => ({
    id,
    name: names.data?.people.find((one) => one.id === id)?.name ?? UNKNOWN,
  }));
  const { data } = query;
  return (
    <main className="mx-auto w-full max-w-[1240px] px-4 py-5 max-sm:py-2 md:px-6">
      <div className="mb-2 flex flex-wrap items-center gap-x-6 gap-y-1 max-sm:mb-1 max-sm:gap-x-3">
        <h1 className="mr-auto text-[26px] max-sm:text-[20px]">
          Find a place{' '}
          <span role="status" className="text-base font-normal text-ink-2">
            {data && (data.total === 0 ? 'nothing' : `${data.free} of ${data.total} free`)}
          </span>
        </h1>
        <TextInput
          type="search"
          aria-label="Name, description or feature"
          placeholder="Name, description or feature"
          className="w-56 max-sm:w-36"
          maxLength={100}
          defaultValue={address.text}
          onChange={({ target: { value } }) => address.change({ q: value.trim() }, true)}
        />
        <PlacesWays at="find" />
      </div>
      <div className="mb-2">
        <FindSentence
          address={address}
          choices={data?.choices}
          people={people}
          onPeople={(next) => address.change({ near: next.map((one) => one.id).join(',') })}
        />
      </div>
      {query.isPending && <Outline what="places" rows={8} />}
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      {data && data.free === 0 && <WhyNone address={address} found={data} />}
      {data && data.places.length > 0 && (
        <ul aria-label="Places">
          {data.places.map((place) => (
            <li key={place.id} className="border-t border-edge">
              <FoundRow place={place} people={people} />
            </li>
          ))}
        </ul>
      )}
      {data && data.total > data.places.length && (
        <p className="py-2 text-ink-2">
          {counted(data.total - data.places.length, 'more')}. Say more of what you look for.
        </p>
      )}
    </main>
  );
}

/** Whoever is not read yet. */
const UNKNOWN = 'somebody';

/** Whose floor or site it is: the one person’s by name, else of how many. */
const whose = (people: readonly { name: string }[], count: number): string =>
  people.length === 1
    ? people[0]!.name === UNKNOWN
      ? 'their'
      : `${givenName(people[0]!)}’s`
    : `the ${count} of ${people.length}’s`;

function FoundRow({
  place,
  people,
}: {
  place: FoundPlaceRow;
  people: readonly { name: string }[];
}) {
  const me = useMe();
  const book = useBooking(place.zone, () => undefined);
  const { free, notThen } = place;
  const offered = free ?? notThen?.instead ?? null;
  const elsewhere = place.zone === me.zone ? '' : ` in ${zoneCity(place.zone)}`;
  const hours = offered && formatHours(offered, place.zone, me.clock);
  const take = () =>
    offered &&
    book.mutate(
      {
        title: place.kind === 'desk' ? 'At the desk' : titleOfBooking([place.name]),
        times: {
          startsAt: wallTimeAt(offered.start, place.zone),
          endsAt: wallTimeAt(offered.end, place.zone),
          zone: place.zone,
        },
        resources: [place.id],
        showsAs: place.kind === 'room' || place.kind === 'lab' ? 'busy' : 'free',
      },
      { onError: (error) => tellUser(errorText(error)) },
    );
  return (
    <div className="grid min-h-12 grid-cols-[0.6rem_minmax(0,1fr)_auto] items-center gap-x-3 py-1.5 sm:grid-cols-[0.6rem_minmax(0,1fr)_minmax(0,1fr)_minmax(0,1.6fr)_9rem]">
      <i aria-hidden="true" className={`h-8 rounded-sm ${free ? 'bg-lichen' : 'rock'}`} />
      <span className="min-w-0">
        <Link
          className="reach block truncate font-semibold hover:underline"
          to={`/places?open=${place.id}`}
        >
          {place.name}
        </Link>
        <span className="block truncate text-xs text-ink-2 sm:hidden">
          {[place.site, ...placeFacts(place)].join(', ')}
        </span>
      </span>
      <span className="max-sm:hidden">
        <span className={`block ${free ? 'font-medium' : 'text-ink-2'}`}>
          {notThen ? notThen.why : `free ${hours}${elsewhere}`}
        </span>
        {people.length > 0 && place.near.atSite > 0 && (
          <span className="block text-xs text-ink-2">
            {place.near.onFloor > 0
              ? `on ${whose(people, place.near.onFloor)} floor`
              : `at ${whose(people, place.near.atSite)} site`}
          </span>
        )}
      </span>
      <span className="truncate text-xs text-ink-2 max-sm:hidden">
        {[place.site, ...placeFacts(place), ...place.ruleWords].join(', ')}
      </span>
      {offered ? (
        <Button
          look={free ? 'plain' : 'quiet'}
          className="justify-self-end text-xs whitespace-nowrap"
          disabled={book.isPending}
          aria-label={`Book ${hours}: ${place.name}${elsewhere}`}
          onClick={take}
        >
          Book {hours}
        </Button>
      ) : (
        <Link
          className="reach justify-self-end text-xs font-semibold text-gentian hover:underline"
          to={`/places/board?place=${place.id}`}
        >
          Its week
        </Link>
      )}
    </div>
  );
}

/** Which condition keeps everything out, and what dropping it would give, one click each. */
function WhyNone({ address, found }: { address: FindAddress; found: FindResponse }) {
  const { excluded } = found;
  const first = excluded[0];
  if (found.isOver) return <ItIsOver address={address} />;
  return (
    <Empty
      title={
        found.places.some(({ notThen }) => notThen?.instead)
          ? 'Nothing is free then; what comes nearest stands below'
          : first && first.gives > 0
            ? `Nothing is free: “${wordsOf(first.condition, address)}” keeps out the most`
            : 'Nothing matches, and no single condition keeps it out'
      }
    >
      <ul className="mt-2 grid max-w-xl gap-1.5">
        {excluded.map(({ condition, gives }) => (
          <li key={JSON.stringify(condition)} className="flex items-center justify-between gap-3">
            <span>
              Without “{wordsOf(condition, address)}”{' '}
              <span>{gives === 0 ? 'none by itself' : counted(gives, 'place')}</span>
            </span>
            <Button onClick={() => drop(condition, address)}>
              {condition.kind === 'time' ? 'Any time that day' : 'Drop it'}
            </Button>
          </li>
        ))}
      </ul>
    </Empty>
  );
}

/** Nothing can be had of what is over: of which days it can. */
function ItIsOver({ address: { date, today, change } }: { address: FindAddress }) {
  const day = (of: string) => formatDay(Date.parse(`${of}T12:00Z`), 'UTC');
  const [first, words] =
    date < today ? [today, 'Look today'] : [addDays(date, 1), `Look on ${day(addDays(date, 1))}`];
  return (
    <Empty title={date < today ? `${day(date)} is over` : `That time is over on ${day(date)}`}>
      <p className="mt-2 flex gap-2">
        <Button onClick={() => change({ date: first })}>{words}</Button>
        {date >= today && (
          <Button onClick={() => change({ from: 0, to: 1440, minutes: 30 })}>
            Any time left that day
          </Button>
        )}
      </p>
    </Empty>
  );
}

function wordsOf(condition: FindCondition, address: FindAddress): string {
  switch (condition.kind) {
    case 'site':
      return 'at that site';
    case 'floor':
      return `floor ${address.floor}`;
    case 'seats':
      return `for ${condition.seats} or more`;
    case 'feature':
      return condition.feature;
    case 'text':
      return address.text;
    case 'time':
      return 'free then';
  }
}

function drop(condition: FindCondition, { change, features }: FindAddress): void {
  switch (condition.kind) {
    case 'feature':
      return change({ with: features.filter((one) => one !== condition.feature).join(',') });
    case 'text':
      return change({ q: null });
    case 'time':
      return change({ from: null, to: null, minutes: ANY_TIME.minutes });
    case 'site':
      return change({ site: 'all' });
    default:
      return change({ [condition.kind]: null });
  }
}
