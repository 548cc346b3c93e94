import { CalendarDays } from 'lucide-react';
import { Popover } from 'radix-ui';
import { Suspense, useState } from 'react';
import { dateAt, isDate } from '../../core/time/wall.ts';
import { useMe, useNow } from '../client/index.ts';
import { IconButton } from '../design/controls.tsx';
import { lazily } from '../design/fetched.ts';

// Loaded when somebody picks a day: most type it or never need another.
const DayCalendar = lazily(async () => (await import('./DayCalendar.tsx')).default);

/** A button that opens a month or two to pick a day from. */
export function PickDay({
  label,
  value,
  onPick,
  className = '',
}: {
  label: string;
  /** `YYYY-MM-DD`; where it is not a day, today's month is shown. */
  value: string;
  onPick: (date: string) => void;
  className?: string;
}) {
  const me = useMe();
  const today = dateAt(useNow(), me.zone);
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <IconButton label={label} small className={`text-ink-2 ${className}`}>
          <CalendarDays size={16} aria-hidden="true" />
        </IconButton>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          collisionPadding={8}
          aria-label={label}
          className="z-50 min-h-[19rem] min-w-[18rem] rounded-sm border border-edge bg-sheet p-3 shadow-lg"
        >
          <Suspense fallback={<p role="status">Opening the months …</p>}>
            <DayCalendar
              value={isDate(value) ? value : today}
              today={today}
              onPick={(date) => {
                setOpen(false);
                onPick(date);
              }}
            />
          </Suspense>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
