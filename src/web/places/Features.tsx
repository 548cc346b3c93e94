import { Popover } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { AnyOf } from '../design/Toggles.tsx';
import { usePhone } from '../design/usePhone.ts';

/** Which features a place is to have, as a word of a sentence. */
export function Features({
  all,
  chosen,
  onChange,
}: {
  all: readonly string[];
  chosen: readonly string[];
  onChange: (features: string[]) => void;
}) {
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label={`Features: ${chosen.join(' and ') || 'anything'}`}
        className="font-semibold text-gentian max-sm:min-h-11"
      >
        <span className="border-b border-dotted border-gentian">
          {chosen.join(' and ') || 'anything'}
        </span>
      </Popover.Trigger>
      <Opened label="Features">
        {all.length === 0 && <p className="text-ink-2">Nothing here has any.</p>}
        <AnyOf
          label="All of these"
          look="days"
          value={chosen}
          onChange={onChange}
          options={[...new Set([...all, ...chosen])].map((one) => ({ value: one, words: one }))}
        />
      </Opened>
    </Popover.Root>
  );
}

/** What a part of the sentence opens, below it. */
export const Opened = ({ label, children }: { label: string; children: ReactNode }) => (
  <Popover.Portal>
    <Popover.Content
      align="start"
      sideOffset={4}
      collisionPadding={8}
      aria-label={label}
      className="z-50 w-80 rounded-sm border border-edge bg-sheet p-3 shadow-lg"
    >
      {children}
    </Popover.Content>
  </Popover.Portal>
);

/** What is wanted of a place: on a phone it is out of the way until somebody wants something. */
export function Wishing({ isSet, children }: { isSet: boolean; children: ReactNode }) {
  const isPhone = usePhone();
  const [isOpen, setOpen] = useState(isSet);
  if (!isPhone || isOpen || isSet) return children;
  return (
    <>
      {' '}
      <button
        type="button"
        className="min-h-11 font-semibold text-gentian"
        onClick={() => setOpen(true)}
      >
        for …
      </button>
    </>
  );
}
