import { useId, useState } from 'react';
import type { SiteDetail } from '../../contract/administration.ts';
import { counted } from '../../core/counted.ts';
import { addDays, dateAt } from '../../core/time/wall.ts';
import { useNow } from '../client/index.ts';
import { readHolidayFile } from '../workers/index.ts';

const MOST_BYTES = 2_000_000;
const YEARS_AHEAD = 3;

/** Days off from a calendar file, which go among those that are typed, to be looked at before they are kept. */
export function HolidayFile({
  zone,
  there,
  onRead,
}: {
  zone: string;
  there: SiteDetail['holidays'];
  onRead: (all: SiteDetail['holidays']) => void;
}) {
  const id = useId();
  const now = useNow();
  const [said, setSaid] = useState<{ words: string; isWrong: boolean } | null>(null);
  const choose = async (file: File | undefined) => {
    if (!file) return;
    try {
      if (file.size > MOST_BYTES) throw new Error('It may be at most 2 MB.');
      const first = dateAt(now, zone);
      const end = addDays(first, YEARS_AHEAD * 366);
      const read = await readHolidayFile(await file.text(), { first, end });
      const known = new Set(there.map(({ date }) => date));
      const fresh = read.holidays.filter(({ date }) => !known.has(date));
      onRead([...there, ...fresh].sort((a, b) => (a.date < b.date ? -1 : 1)));
      setSaid({ words: inWords(fresh.length, read.holidays.length, read.aside), isWrong: false });
    } catch (error) {
      setSaid({ words: `${file.name}: ${(error as Error).message}`, isWrong: true });
    }
  };
  return (
    <div className="-mt-2 grid gap-1">
      <p>
        <input
          id={id}
          type="file"
          accept=".ics,text/calendar"
          className="peer sr-only"
          onChange={(event) => {
            void choose(event.target.files?.[0]);
            // The same file once more is read once more.
            event.target.value = '';
          }}
        />
        <label
          htmlFor={id}
          className="inline-block cursor-pointer rounded-sm border border-edge bg-sheet px-3 py-1.5 font-semibold peer-focus-visible:outline-2 peer-focus-visible:outline-gentian hover:border-ink-2 max-sm:min-h-11"
        >
          From a calendar file (.ics)
        </label>
      </p>
      {said && (
        <p
          role={said.isWrong ? 'alert' : 'status'}
          className={said.isWrong ? 'font-semibold text-alpenglow' : 'text-ink-2'}
        >
          {said.words}
        </p>
      )}
    </div>
  );
}

function inWords(fresh: number, all: number, aside: number): string {
  const parts = [
    all === 0 ? 'No day off to come stands in it' : `${counted(fresh, 'day')} added above`,
    all > fresh && `${all - fresh} of them stood there already`,
    aside > 0 && `${counted(aside, 'entry', 'entries')} left aside, as no whole days`,
  ].filter(Boolean);
  return `${parts.join('; ')}.${fresh > 0 ? ' Look at them, then keep.' : ''}`;
}
