import { ChevronLeft, ChevronRight } from 'lucide-react';
import type { ReactNode } from 'react';
import { addDays } from '../../core/time/wall.ts';
import { IconButton } from '../design/controls.tsx';
import { Select } from '../design/Select.tsx';
import { PickDay } from '../time/index.ts';

/* What the sentences of Find, Board and Ledger have in common. */

/** What is looked for, as a sentence whose parts can be changed. */
export const Sentence = ({ children }: { children: ReactNode }) => (
  <p className="font-head text-[17px] leading-8 font-medium max-sm:text-[15px]">{children}</p>
);

/** At which site, or at every one (null). */
export const SiteWord = ({
  value,
  sites,
  onChange,
}: {
  value: number | null;
  sites: readonly { id: number; name: string }[];
  onChange: (site: number | null) => void;
}) => (
  <Select<number | null>
    look="word"
    question="Site"
    value={value}
    onChange={onChange}
    options={[
      { value: null, words: 'every site' },
      ...sites.map(({ id, name }) => ({ value: id, words: name })),
    ]}
  />
);

const SIZES = [1, 2, 4, 6, 8, 10, 12, 20, 40];

/** For how many people at least; 1 is any number. */
export const SizeWord = ({
  value,
  onChange,
}: {
  value: number;
  onChange: (seats: number) => void;
}) => (
  <Select
    look="word"
    question="Size"
    value={value}
    onChange={onChange}
    options={[...new Set([...SIZES, value])].map((seats) => ({
      value: seats,
      words: seats === 1 ? 'any number' : `${seats} or more`,
    }))}
  />
);

/** Goes so many days back or on, or to a day that is picked. */
export const DaySteps = ({
  date,
  days = 1,
  onChange,
}: {
  date: string;
  days?: number;
  onChange: (date: string) => void;
}) => (
  <>
    <IconButton
      small
      label={days > 1 ? 'The days before' : 'The day before'}
      onClick={() => onChange(addDays(date, -days))}
    >
      <ChevronLeft size={16} aria-hidden="true" />
    </IconButton>
    <PickDay label="Pick a day" value={date} onPick={onChange} />
    <IconButton
      small
      label={days > 1 ? 'The days after' : 'The day after'}
      onClick={() => onChange(addDays(date, days))}
    >
      <ChevronRight size={16} aria-hidden="true" />
    </IconButton>
  </>
);
