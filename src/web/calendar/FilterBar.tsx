import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { counted } from '../../core/counted.ts';
import { answerTo, Failure, useNow } from '../client/index.ts';
import { Button, PartHeading, TextInput } from '../design/controls.tsx';
import { Select } from '../design/Select.tsx';
import { Tick } from '../design/ticks.tsx';
import { Empty, Loading } from '../design/states.tsx';
import { AgendaLine } from './AgendaView.tsx';
import { FILTER_KEYS, type Filter } from './filter.ts';
import { ofMine, type GridItem } from '../grid/index.ts';
import { useCategories } from '../preferences/index.ts';

const CHOICES: [keyof Filter, string, [string, string][]][] = [
  [
    'kind',
    'Kind',
    [
      ['meeting', 'meetings'],
      ['own', 'my own'],
      ['booking', 'bookings'],
      ['away', 'away'],
    ],
  ],
  [
    'organizer',
    'Organized by',
    [
      ['me', 'me'],
      ['others', 'others'],
    ],
  ],
  [
    'reply',
    'My reply',
    [
      ['needs-action', 'not yet'],
      ['accepted', 'accepted'],
      ['tentative', 'tentative'],
      ['declined', 'declined'],
    ],
  ],
  [
    'repeats',
    'Repeats',
    [
      ['yes', 'yes'],
      ['no', 'no'],
    ],
  ],
];

/** What of my calendar is wanted: words, category, whose, my reply, repeating, kind. */
export function FilterBar({
  filter,
  onChange,
  everywhere,
  onEverywhere,
  onClose,
}: {
  filter: Filter;
  onChange: (part: Partial<Filter>) => void;
  /** Whether all of my past and future is searched, instead of what the view shows. */
  everywhere: boolean;
  onEverywhere: (everywhere: boolean) => void;
  onClose: () => void;
}) {
  const categories = useCategories();
  const byCategory: (typeof CHOICES)[number] = [
    'category',
    'Category',
    categories.map((one) => [String(one.id), one.name]),
  ];
  // Kept here as well: the address follows a little later than the typing.
  const [words, setWords] = useState(filter.q);
  return (
    <div
      role="search"
      aria-label="Filter and search"
      className="no-print flex flex-wrap items-center gap-2 border-y border-edge bg-sheet px-4 py-1.5 md:px-6"
    >
      <TextInput
        type="search"
        autoFocus
        aria-label="Words"
        placeholder="Words, people, places"
        className="w-44"
        value={words}
        onChange={(event) => {
          setWords(event.target.value);
          onChange({ q: event.target.value });
        }}
      />
      {[...(categories.length > 0 ? [byCategory] : []), ...CHOICES].map(([key, label, options]) => (
        <Select
          key={key}
          question={label}
          className="w-auto py-1"
          value={filter[key]}
          onChange={(value) => onChange({ [key]: value })}
          options={[['', 'any'] as const, ...options].map(([value, words]) => ({ value, words }))}
        />
      ))}
      <Tick label="All my past and future" on={everywhere} onChange={onEverywhere} />
      <Button look="quiet" onClick={onClose}>
        Clear
      </Button>
    </div>
  );
}

/** What a search over all of my calendar finds: what comes, in its order, then what was, the latest first. */
export function FoundList({
  filter,
  onOpen,
}: {
  filter: Filter;
  onOpen: (item: GridItem) => void;
}) {
  const asked = FILTER_KEYS.filter((key) => filter[key].trim() !== '');
  const isAsked = asked.length > 0;
  const query = useQuery({
    ...answerTo('GET /api/calendar/search', {
      // What stands in an address may be none of what can be asked for, which the server says.
      query: Object.fromEntries(asked.map((key) => [key, filter[key].trim()])),
    }),
    enabled: isAsked,
    placeholderData: (before) => before,
  });
  const now = useNow();
  const found = query.data?.found ?? [];
  const parts = [
    ['To come', found.filter((one) => one.end > now).sort((a, b) => a.start - b.start)],
    ['Past', found.filter((one) => one.end <= now).sort((a, b) => b.start - a.start)],
  ] as const;
  return (
    <div className="min-h-0 flex-1 overflow-y-auto bg-sheet px-4 py-3 md:px-6">
      <div className="mx-auto max-w-4xl">
        {!isAsked && (
          <Empty title="Search all of your calendar">
            Type a word, or choose what to look for.
          </Empty>
        )}
        {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
        {isAsked && query.isPending && <Loading what="your calendar" />}
        {isAsked && query.data?.found.length === 0 && (
          <Empty title="Nothing found">
            Try fewer words, or the beginning of one. What was cancelled lately is under your name.
          </Empty>
        )}
        {isAsked &&
          parts.map(
            ([name, some]) =>
              some.length > 0 && (
                <section key={name} aria-label={name}>
                  <PartHeading remark={counted(some.length, 'event')}>{name}</PartHeading>
                  <ul aria-label={`Found, ${name.toLowerCase()}`} className="mb-3 grid gap-0.5">
                    {some.map((found) => (
                      <li key={found.eventId}>
                        <AgendaLine
                          item={ofMine(found)}
                          withDay
                          past={name === 'Past'}
                          remark={[
                            found.occurrences > 1 ? `${found.occurrences} dates` : null,
                            found.excerpt,
                          ]
                            .filter(Boolean)
                            .join(' · ')}
                          onOpen={() => onOpen(ofMine(found))}
                        />
                      </li>
                    ))}
                  </ul>
                </section>
              ),
          )}
      </div>
    </div>
  );
}
