import type { Chip } from '../../core/planner/sentence.ts';
import {
  formatBetween,
  formatDay,
  formatLength,
  formatMinute,
  type ClockStyle,
} from '../../core/time/format.ts';
import { MINUTE } from '../../core/time/interval.ts';
import { useMe } from '../client/index.ts';
import type { TypedSentence } from './useSentence.ts';

/** What was understood of a sentence; each chip can be taken out, or mean somebody else. */
export function SentenceChips({ sentence }: { sentence: TypedSentence }) {
  const { clock } = useMe();
  return (
    <div
      className="border-b border-edge px-3 pt-1.5 pb-2.5"
      // Enter on a chip is the chip's own.
      onKeyDown={(event) => event.key === 'Enter' && event.stopPropagation()}
    >
      <p className="mb-1.5 text-xs text-ink-2">Understood so far; nothing is made yet:</p>
      <ul className="flex flex-wrap gap-1.5" aria-label="Understood">
        {sentence.chips.map((chip, at) => (
          <li
            key={`${at}${chip.words}`}
            className={`flex items-center rounded-full border py-0.5 pr-1 pl-2.5 ${chip.kind === 'unread' ? 'border-dashed border-alpenglow text-alpenglow' : 'border-edge bg-paper'}`}
          >
            <span title={`from “${chip.words}”`}>
              <span className="text-xs text-ink-2">{LABELS[chip.kind]} </span>
              <b className="font-semibold">{chipText(chip, clock)}</b>
            </span>
            {'others' in chip && chip.others.length > 0 && (
              <button
                type="button"
                className="ml-1.5 text-xs font-semibold text-gentian hover:underline"
                onClick={() => sentence.next(at)}
                aria-label={`Not ${chip.name} but ${chip.others[0]!.name}`}
              >
                or {chip.others[0]!.name}?
              </button>
            )}
            <button
              type="button"
              className="ml-1 grid size-5 place-items-center rounded-full text-ink-2 hover:bg-gentian-wash"
              onClick={() => sentence.drop(at)}
              aria-label={`Leave out ${chipText(chip, clock)}`}
            >
              ×
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}

const LABELS: Record<Chip['kind'], string> = {
  title: 'about',
  person: 'with',
  team: 'with all of',
  address: 'with',
  resource: 'using',
  room: '',
  day: 'on',
  days: 'from',
  time: 'at',
  between: '',
  length: 'for',
  weekly: '',
  unread: 'not understood:',
};

const day = (date: string) => formatDay(Date.parse(`${date}T12:00Z`), 'UTC');

function chipText(chip: Chip, clock: ClockStyle): string {
  switch (chip.kind) {
    case 'title':
      return chip.text;
    case 'person':
      return `${chip.name}${chip.optional ? ', optional' : ''}`;
    case 'team':
      return `${chip.name} (${chip.memberIds.length})${chip.optional ? ', optional' : ''}`;
    case 'address':
      return `${chip.email}${chip.optional ? ', optional' : ''}`;
    case 'resource':
    case 'room':
      return chip.name;
    case 'day':
      return day(chip.date);
    case 'days':
      return day(chip.from);
    case 'time':
      return formatMinute(chip.minute, clock);
    case 'between':
      return formatBetween(chip, clock);
    case 'length':
      return formatLength(chip.minutes * MINUTE);
    case 'weekly':
      return `${chip.everyWeeks === 1 ? 'every week' : `every ${chip.everyWeeks} weeks`}${chip.count ? `, ${chip.count} times` : ''}`;
    case 'unread':
      return chip.words;
  }
}
