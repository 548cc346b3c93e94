import { createContext, useContext, useState, type ComponentProps } from 'react';
import { DayPicker, type DayButton } from 'react-day-picker';
import { addMonths } from '../../core/time/wall.ts';
import { usePreferences } from '../client/index.ts';
import { usePhone } from '../design/usePhone.ts';
import { useFullness } from './useFullness.ts';

/** A day with this much in it is drawn full to its top. */
const FULL_MINUTES = 7 * 60;

const two = (value: number) => String(value).padStart(2, '0');
/** The library names a day by midnight on this device's clock. */
const dateOf = (day: Date): string =>
  `${day.getFullYear()}-${two(day.getMonth() + 1)}-${two(day.getDate())}`;
const dayOf = (date: string): Date => {
  const [year, month, day] = date.split('-').map(Number);
  return new Date(year!, month! - 1, day);
};

/** How full a day is, from 0 to 1. */
const Fullness = createContext<(date: string) => number>(() => 0);

function DayWithFullness({
  day,
  modifiers,
  className = '',
  children,
  ...button
}: ComponentProps<typeof DayButton>) {
  const share = useContext(Fullness)(dateOf(day.date));
  return (
    <button
      {...button}
      className={`${className} ${modifiers.selected ? 'outline-2 -outline-offset-2 outline-gentian font-semibold' : ''} ${modifiers.today ? 'font-semibold' : ''}`}
    >
      <span
        aria-hidden="true"
        className="absolute inset-x-1 bottom-0 bg-ridge"
        style={{ height: `${share * 100}%` }}
      />
      {modifiers.today && (
        <span aria-hidden="true" className="absolute inset-x-1 bottom-0 h-[3px] bg-alpenglow" />
      )}
      <span className="relative">{children}</span>
    </button>
  );
}

/** A month or two to pick a day from, with how full my days are behind them. */
export default function DayCalendar({
  value,
  today,
  onPick,
}: {
  /** `YYYY-MM-DD` */
  value: string;
  today: string;
  onPick: (date: string) => void;
}) {
  const { firstWeekday } = usePreferences();
  const months = usePhone() ? 1 : 2;
  const [first, setFirst] = useState(`${value.slice(0, 7)}-01`);
  const days = 31 * months;
  const { of } = useFullness(first, days);
  return (
    <Fullness value={(date) => Math.min(1, (of(date)?.minutes ?? 0) / FULL_MINUTES)}>
      <DayPicker
        mode="single"
        required
        autoFocus
        navLayout="around"
        selected={dayOf(value)}
        today={dayOf(today)}
        month={dayOf(first)}
        onMonthChange={(month) => setFirst(dateOf(month))}
        startMonth={dayOf(addMonths(today, -240))}
        endMonth={dayOf(addMonths(today, 240))}
        numberOfMonths={months}
        weekStartsOn={(firstWeekday % 7) as 0 | 1 | 6}
        onSelect={(day) => day && onPick(dateOf(day))}
        components={{ DayButton: DayWithFullness }}
        classNames={{
          months: 'flex items-start gap-5',
          month: 'grid grid-cols-[2rem_1fr_2rem] grid-rows-[2rem_auto] items-center',
          month_caption: 'col-start-2 row-start-1 text-center font-head font-semibold',
          button_previous: NAV + ' col-start-1 row-start-1',
          button_next: NAV + ' col-start-3 row-start-1',
          chevron: 'size-4 fill-current',
          month_grid: 'col-span-3 mt-1.5 border-collapse',
          weekday: 'pb-1 text-center text-xs font-medium text-ink-2',
          day: 'p-px text-center',
          day_button:
            'relative size-9 overflow-hidden rounded-sm hover:bg-gentian-wash max-sm:size-11',
          outside: 'invisible',
        }}
      />
    </Fullness>
  );
}

const NAV = 'grid size-8 place-items-center rounded-sm hover:bg-gentian-wash max-sm:size-11';
