import type { Chip } from '../../core/sentence/sentence.ts';
import { counted } from '../../core/counted.ts';
import {
  formatBetween,
  formatDay,
  formatLength,
  formatMinute,
  type ClockStyle,
} from '../../core/time/format.ts';
import { MINUTE } from '../../core/time/interval.ts';
import { dateAt } from '../../core/time/wall.ts';
import { useMe, useNow } from '../client/index.ts';
import type { TypedSentence } from './useSentence.ts';

/** What was understood of a sentence; each chip can be taken out, or mean somebody else. */
export function SentenceChips({ sentence }: { sentence: TypedSentence }) {
  const speech = useSpeech();
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
              <b className="font-semibold">{chipText(chip, speech)}</b>
            </span>
            {'other' in chip && chip.other !== null && (
              <button
                type="button"
                className="ml-1.5 text-xs font-semibold text-gentian hover:underline"
                onClick={() => sentence.next(at)}
                aria-label={`Not ${chipText(chip, speech)} but ${otherText(chip, speech)}`}
              >
                or {otherText(chip, speech)}?
              </button>
            )}
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
              aria-label={`Leave out ${chipText(chip, speech)}`}
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
  except: 'without',
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
  repeats: '',
  unread: 'not understood:',
};

/** `Thu 26 Nov`; with the year where it is another than this one. */
const day = (date: string, { year }: Speech) => {
  const words = formatDay(Date.parse(`${date}T12:00Z`), 'UTC');
  return date.startsWith(year) ? words : `${words} ${date.slice(0, 4)}`;
};

/** By whose clock chips are said, and in which year. */
interface Speech {
  clock: ClockStyle;
  year: string;
}

/** How chips are said to whoever is signed in. */
export function useSpeech(): Speech {
  const { clock, zone } = useMe();
  return { clock, year: dateAt(useNow(), zone).slice(0, 4) };
}

/** A chip in words. */
export function chipText(chip: Chip, speech: Speech): string {
  const { clock } = speech;
  switch (chip.kind) {
    case 'title':
      return chip.text;
    case 'person':
      return `${chip.name}${chip.optional ? ', optional' : ''}`;
    case 'except':
      return chip.name;
    case 'team':
      return `${chip.name} (${chip.memberIds.length})${chip.optional ? ', optional' : ''}`;
    case 'address':
      return `${chip.email}${chip.optional ? ', optional' : ''}`;
    case 'resource':
    case 'room':
      return chip.name;
    case 'day':
      return day(chip.date, speech);
    case 'days':
      return `${day(chip.from, speech)}, ${counted(chip.days, 'day')}`;
    case 'time':
      return `${formatMinute(chip.minute, clock)}${chip.zone ? ` in ${chip.place}` : ''}`;
    case 'between':
      return formatBetween(chip, clock);
    case 'length':
      return formatLength(chip.minutes * MINUTE);
    case 'weekly':
      return `${chip.everyWeeks === 1 ? 'every week' : `every ${chip.everyWeeks} weeks`}${chip.count ? `, ${chip.count} times` : ''}`;
    case 'repeats':
      return `${chip.name}${chip.count ? `, ${chip.count} times` : ''}`;
    case 'unread':
      return chip.why ? `${chip.words}, ${chip.why}` : chip.words;
  }
}

/** What a day or a time could mean as well. */
function otherText(chip: Chip, speech: Speech): string {
  if (chip.kind === 'day') return day(chip.other!, speech);
  return chip.kind === 'time' ? formatMinute(chip.other!, speech.clock) : '';
}
