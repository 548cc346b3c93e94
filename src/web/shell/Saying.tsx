import { chipText, useSpeech } from './SentenceChips.tsx';
import type { Understood } from './useSentence.ts';

/** What choosing the sentence does, and what of it could not be taken. */
export function Saying({ read, text }: { read: Understood; text: string }) {
  const speech = useSpeech();
  if (read.kind === 'place') {
    const { count, unread } = read.place;
    return (
      <>
        <span>
          <span className="font-medium">
            {count === 1 ? 'Find one to book' : `Find ${count} to book, one by one`}
          </span>
          {unread.length > 0 && (
            <span className="block text-xs text-alpenglow">
              not understood: {unread.join('; ')}
            </span>
          )}
        </span>
        <span className="text-ink-2">{text.trim()}</span>
      </>
    );
  }
  if (read.kind === 'command') {
    const { command } = read;
    const when = command.chips.map((chip) => chipText(chip, speech)).join(', ');
    return (
      <>
        <span className="font-medium">Book {command.verb === 'book' && command.place.name}</span>
        <span className="text-ink-2">
          {when ? `${when}; look at it first` : 'look at it first'}
        </span>
      </>
    );
  }
  const isForm = read.chips.some(({ kind }) => kind === 'repeats');
  return (
    <>
      <span className="font-medium">{isForm ? 'Write it down' : 'Plan this'}</span>
      <span className="text-ink-2">
        {isForm ? 'in the form of a new event' : 'see when it can be'}
      </span>
    </>
  );
}
