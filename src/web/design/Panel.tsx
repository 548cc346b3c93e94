import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';

/** A sheet that slides in beside what it belongs to; full width on a phone. Escape closes it. */
export function Panel({
  open,
  onClose,
  title,
  children,
}: {
  open: boolean;
  onClose: () => void;
  title: string;
  children: ReactNode;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={(now) => !now && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-black/35" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-y-0 right-0 z-40 flex w-full max-w-[440px] flex-col overflow-y-auto border-l border-edge bg-paper px-6 py-5"
        >
          <div className="mb-4 flex items-start justify-between gap-4">
            <Dialog.Title className="text-xl leading-tight">{title}</Dialog.Title>
            <Dialog.Close className="rounded-sm px-2 py-1 font-semibold text-gentian hover:bg-gentian-wash">
              Close
            </Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
