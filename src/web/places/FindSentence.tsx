import { RESOURCE_KINDS, type ResourceKind } from '../../contract/resourceKind.ts';
import { Popover } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { type FindResponse } from '../../contract/places.ts';
import { listNames } from '../../core/planner/words.ts';
import { formatDay, formatLength, formatMinute } from '../../core/time/format.ts';
import { MINUTE } from '../../core/time/interval.ts';
import { parseTimeOfDay } from '../../core/time/typedTime.ts';
import { useMe } from '../client/index.ts';
import { Button, Field, TextInput } from '../design/controls.tsx';
import { Select } from '../design/Select.tsx';
import { FindField } from '../find/index.ts';
import { KIND_NAMES } from './facts.ts';
import { Features, Opened, Wishing } from './Features.tsx';
import { DaySteps, Sentence, SiteWord, SizeWord } from './sentenceParts.tsx';
import { WHOLE_DAY, type FindAddress } from './useFindAddress.ts';

const LENGTHS = [15, 30, 45, 60, 90, 120, 180, 240, 360, 480];
const PARTS = [
  { ...WHOLE_DAY, words: 'in the daytime' },
  { from: 8 * 60, to: 12 * 60, words: 'in the morning' },
  { from: 12 * 60, to: 18 * 60, words: 'in the afternoon' },
  { from: 0, to: 24 * 60, words: 'at any hour' },
];

/** What is looked for, as a sentence whose parts can be changed. */
export function FindSentence({
  address,
  choices,
  people,
  onPeople,
}: {
  address: FindAddress;
  choices: FindResponse['choices'] | undefined;
  /** Those it is to be near, with their names as far as they are known. */
  people: readonly { id: number; name: string }[];
  onPeople: (people: readonly { id: number; name: string }[]) => void;
}) {
  const me = useMe();
  const { change, date } = address;
  const part = `${address.from}-${address.to}`;
  const parts = PARTS.map(({ from, to, words }) => ({ value: `${from}-${to}`, words }));
  const time = (minute: number) => formatMinute(minute, me.clock);
  return (
    <div className="flex flex-wrap items-center gap-x-2 gap-y-1">
      <Sentence>
        <Select<ResourceKind>
          look="word"
          question="Kind"
          value={address.kind}
          onChange={(kind) => change({ kind, with: null, floor: null, minutes: null })}
          options={RESOURCE_KINDS.map((value) => ({ value, words: KIND_NAMES[value] }))}
        />{' '}
        at{' '}
        <SiteWord
          value={address.site}
          sites={choices?.sites ?? []}
          onChange={(site) => change({ site: site ?? 'all', floor: null })}
        />
        , {formatDay(Date.parse(`${date}T12:00Z`), 'UTC')}
        <span className="mx-1 inline-flex items-center align-middle">
          <DaySteps date={date} onChange={(next) => change({ date: next })} />
        </span>
        <Wishing isSet={address.isNarrowed}>
          {(address.floor !== null ||
            ((choices?.floors.length ?? 0) > 0 && address.site !== null)) && (
            <>
              <Select<string | null>
                look="word"
                question="Floor"
                value={address.floor}
                onChange={(floor) => change({ floor })}
                options={[
                  { value: null, words: 'any floor' },
                  ...[
                    ...new Set([
                      ...(choices?.floors ?? []),
                      ...(address.floor ? [address.floor] : []),
                    ]),
                  ].map((value) => ({ value, words: `floor ${value}` })),
                ]}
              />
            </>
          )}{' '}
          for{' '}
          <SizeWord
            value={address.seats}
            onChange={(seats) => change({ seats: seats > 1 ? seats : null })}
          />{' '}
          with{' '}
          <Features
            all={choices?.features ?? []}
            chosen={address.features}
            onChange={(next) => change({ with: next.join(',') })}
          />
          , free for{' '}
          <Select<number | null>
            look="word"
            question="How long"
            value={address.minutes}
            onChange={(minutes) => change({ minutes: minutes ?? 'all' })}
            options={[
              ...[...new Set([...LENGTHS, ...(address.minutes ? [address.minutes] : [])])]
                .filter((one) => one <= address.to - address.from)
                .sort((a, b) => a - b)
                .map((value) => ({ value, words: `any ${formatLength(value * MINUTE)}` })),
              { value: null, words: 'all of it' },
            ]}
          />{' '}
          <Select
            look="word"
            question="At what hours"
            value={part}
            onChange={(next) => {
              const [from, to] = next.split('-');
              change({ from: from!, to: to! });
            }}
            options={
              parts.some((one) => one.value === part)
                ? parts
                : [
                    ...parts,
                    {
                      value: part,
                      words: `from ${time(address.from)} to ${time(address.to)}${address.to > 1440 ? ' the next day' : ''}`,
                    },
                  ]
            }
          />{' '}
          <Hours key={part} address={address} /> near <Near people={people} onPeople={onPeople} />
        </Wishing>
      </Sentence>
    </div>
  );
}

/** Hours typed as one likes: "11", "11:00", "2pm"; an end before the beginning is the next day's. */
function Hours({ address }: { address: FindAddress }) {
  const me = useMe();
  const [open, setOpen] = useState(false);
  const [wrong, setWrong] = useState({ from: false, to: false });
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="mr-1 text-sm font-semibold text-gentian hover:underline max-sm:min-h-11">
        …<span className="sr-only">Type the hours</span>
      </Popover.Trigger>
      <Opened label="Hours">
        <form
          className="grid gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            const given = new FormData(event.currentTarget);
            const from = parseTimeOfDay(String(given.get('from')));
            const to = parseTimeOfDay(String(given.get('to')));
            setWrong({ from: from === null, to: to === null });
            if (from === null || to === null) {
              const wrongOne = event.currentTarget.elements.namedItem(
                from === null ? 'from' : 'to',
              );
              return (wrongOne as HTMLElement).focus();
            }
            address.change({ from, to: to > from ? to : to + 1440, minutes: 'all' });
            setOpen(false);
          }}
        >
          <div className="grid grid-cols-2 gap-2">
            <Field label="From" error={wrong.from ? 'a time such as 11 or 14:30' : undefined}>
              <TextInput
                name="from"
                aria-invalid={wrong.from}
                defaultValue={formatMinute(address.from, me.clock)}
              />
            </Field>
            <Field label="Until" error={wrong.to ? 'a time such as 11 or 14:30' : undefined}>
              <TextInput
                name="to"
                aria-invalid={wrong.to}
                defaultValue={formatMinute(address.to, me.clock)}
              />
            </Field>
          </div>
          <Button type="submit">Look then</Button>
        </form>
      </Opened>
    </Popover.Root>
  );
}

/** People near whom it is to be. */
function Near({
  people,
  onPeople,
}: {
  people: readonly { id: number; name: string }[];
  onPeople: (people: readonly { id: number; name: string }[]) => void;
}) {
  const words: ReactNode = people.length > 0 ? listNames(people.map((one) => one.name)) : 'nobody';
  return (
    <Popover.Root>
      <Popover.Trigger className="font-semibold text-gentian max-sm:min-h-11">
        <span className="border-b border-dotted border-gentian">{words}</span>
      </Popover.Trigger>
      <Opened label="Near whom">
        <FindField
          label="Near whom"
          kinds={['person']}
          inFlow
          autoFocus
          onFound={(one) =>
            onPeople([...people.filter(({ id }) => id !== one.id), { id: one.id, name: one.name }])
          }
        />
        <ul className="mt-2 grid gap-1">
          {people.map((one) => (
            <li key={one.id} className="flex items-center justify-between gap-2">
              {one.name}
              <Button
                look="quiet"
                onClick={() => onPeople(people.filter(({ id }) => id !== one.id))}
              >
                Leave out
              </Button>
            </li>
          ))}
        </ul>
      </Opened>
    </Popover.Root>
  );
}
