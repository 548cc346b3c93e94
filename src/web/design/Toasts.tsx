import { Toast } from 'radix-ui';
import { useSyncExternalStore } from 'react';
import { dismiss, notices, subscribe } from './notices.ts';

/** Short messages at the foot of the page, with a way back where there is one. */
export function Toasts() {
  const shown = useSyncExternalStore(subscribe, notices);
  return (
    <Toast.Provider duration={7000} label="Message">
      {shown.map((notice) => (
        <Toast.Root
          key={notice.id}
          // As long as letters are held back.
          duration={notice.undo ? 10_000 : 7_000}
          onOpenChange={(open) => !open && dismiss(notice.id)}
          className="flex items-center gap-4 rounded-sm bg-ink px-4 py-3 text-paper"
        >
          <Toast.Description>{notice.text}</Toast.Description>
          {notice.undo && (
            <Toast.Action
              altText="Undo"
              // The second click of two is not meant for the message that has come into its place.
              onClick={(event) => event.detail < 2 && notice.undo!()}
              className="rounded-sm px-2 py-0.5 font-semibold underline underline-offset-2"
            >
              Undo
            </Toast.Action>
          )}
        </Toast.Root>
      ))}
      <Toast.Viewport className="fixed bottom-4 max-sm:bottom-20 left-1/2 z-50 flex w-max max-w-[92vw] -translate-x-1/2 flex-col gap-2" />
    </Toast.Provider>
  );
}
