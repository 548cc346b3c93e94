import { AlertDialog } from 'radix-ui';
import type { ReactNode } from 'react';

/** The keys go to what is asked first: a field where there is one, else the first button. */
function takeFocus(event: Event): void {
  event.preventDefault();
  const dialog = event.target instanceof HTMLElement ? event.target : null;
  const first = dialog?.querySelector<HTMLElement>(
    'input:not([disabled]), textarea:not([disabled]), [role="combobox"], [role="radio"][tabindex="0"]',
  );
  (first ?? dialog?.querySelector<HTMLElement>('button'))?.focus();
}

/** A question that must be answered before something that touches others is done. */
export function QuestionDialog({
  title,
  onClose,
  children,
}: {
  title: string;
  onClose: () => void;
  children: ReactNode;
}) {
  return (
    <AlertDialog.Root open onOpenChange={(open) => !open && onClose()}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-black/35" />
        <AlertDialog.Content
          aria-describedby={undefined}
          onOpenAutoFocus={takeFocus}
          className="fixed top-1/2 left-1/2 z-50 grid max-h-[92dvh] w-[92vw] max-w-md -translate-x-1/2 -translate-y-1/2 gap-4 overflow-y-auto rounded-sm border border-edge bg-paper p-6"
        >
          <AlertDialog.Title className="text-lg leading-snug">{title}</AlertDialog.Title>
          {children}
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
