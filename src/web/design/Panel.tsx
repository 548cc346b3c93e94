import { Dialog } from 'radix-ui';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { Guard } from './Guard.tsx';
import { useOpener } from './useOpener.ts';
import { usePointer } from './usePointer.ts';
import { usePhone } from './usePhone.ts';

const PLACE = 'beside-the-view';

/** Where panels stand: beside the view, which becomes narrower and stays what it is. */
export const BesideTheView = () => <div id={PLACE} className="no-print contents" />;

/**
 * Details beside what they belong to, which stays visible and alive; on a phone a sheet from below.
 * Escape closes it, and nothing that is done elsewhere does.
 */
export function Panel({
  open,
  onClose,
  title,
  leavesFocus = false,
  pointsAt = null,
  children,
}: {
  open: boolean;
  onClose: () => void;
  title: string;
  /** Whether the keys stay where they are when it opens beside them. */
  leavesFocus?: boolean;
  /** A selector of what it belongs to, at which it points where that is in sight. */
  pointsAt?: string | null;
  children: ReactNode;
}) {
  const isPhone = usePhone();
  const content = useRef<HTMLDivElement>(null);
  const giveBack = useOpener(open, content);
  // The place is there once the shell is, which is mostly long before a panel opens.
  const [place, setPlace] = useState(() => document.getElementById(PLACE));
  useEffect(() => setPlace(document.getElementById(PLACE)), []);
  const pointer = usePointer(content, open && !isPhone ? pointsAt : null);
  const shape = isPhone
    ? 'fixed inset-x-0 bottom-0 z-40 max-h-[88dvh] rounded-t-lg border-t'
    : 'w-[400px] shrink-0 border-l';
  return (
    <Dialog.Root
      open={open && place !== null}
      modal={isPhone}
      onOpenChange={(now) => !now && onClose()}
    >
      <Dialog.Portal container={isPhone ? undefined : place}>
        {isPhone && <Dialog.Overlay className="fixed inset-0 z-30 bg-black/35" />}
        {pointer && (
          <i
            aria-hidden="true"
            data-points
            className="pointer-events-none fixed z-30 -mr-px -mt-2 border-y-8 border-r-8 border-y-transparent border-r-gentian"
            style={pointer}
          />
        )}
        <Dialog.Content
          ref={content}
          aria-describedby={undefined}
          onOpenAutoFocus={(event) => leavesFocus && !isPhone && event.preventDefault()}
          onCloseAutoFocus={giveBack}
          onInteractOutside={(event) => !isPhone && event.preventDefault()}
          className={`flex flex-col overflow-y-auto border-edge bg-paper ${shape}`}
        >
          {/* What scrolls has no padding of its own, or what sticks to its edge would stand off it. */}
          <div className="flex flex-1 flex-col px-6 py-5">
            <div className="mb-4 flex items-start justify-between gap-4">
              <Dialog.Title className="text-xl leading-tight">{title}</Dialog.Title>
              <Dialog.Close className="rounded-sm max-sm:min-h-11 px-2 py-1 font-semibold text-gentian hover:bg-gentian-wash">
                Close
              </Dialog.Close>
            </div>
            <Guard what="this panel" until={title}>
              {children}
            </Guard>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
