import { ChevronLeft, ChevronRight, Plus, SlidersHorizontal } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { IconButton } from '../design/controls.tsx';
import { Panel } from '../design/Panel.tsx';

/** The calendar's tools on a phone, in one line; those needed seldom open from below. */
export function PhoneTools({
  title,
  isToday,
  onStep,
  onToday,
  onNew,
  children,
}: {
  title: string;
  isToday: boolean;
  onStep: (steps: -1 | 1) => void;
  onToday: () => void;
  onNew: () => void;
  /** What opens from below. */
  children: ReactNode;
}) {
  const [open, setOpen] = useState(false);
  return (
    <div className="no-print flex h-11 items-center pr-1 pl-1">
      <IconButton label="Earlier" onClick={() => onStep(-1)}>
        <ChevronLeft size={20} aria-hidden="true" />
      </IconButton>
      <h1 className="min-w-0 flex-1 truncate text-center text-[15px]">{title}</h1>
      <IconButton label="Later" onClick={() => onStep(1)}>
        <ChevronRight size={20} aria-hidden="true" />
      </IconButton>
      <button
        type="button"
        disabled={isToday}
        onClick={onToday}
        className="h-11 px-2 font-semibold text-gentian disabled:text-ink-2"
      >
        Today
      </button>
      <IconButton label="What is shown, and how" onClick={() => setOpen(true)}>
        <SlidersHorizontal size={19} aria-hidden="true" />
      </IconButton>
      <button
        type="button"
        aria-label="New event"
        onClick={onNew}
        className="fixed right-4 bottom-[calc(4.5rem+env(safe-area-inset-bottom))] z-20 grid size-13 place-items-center rounded-full bg-gentian text-on-gentian shadow-lg"
      >
        <Plus size={24} aria-hidden="true" />
      </button>
      <Panel open={open} onClose={() => setOpen(false)} title="What is shown, and how">
        <div className="grid gap-5">{children}</div>
      </Panel>
    </div>
  );
}
