import { Dialog } from 'radix-ui';

const KEYS: [string, string][] = [
  ['/', 'Go to the field at the top'],
  ['?', 'Show this list'],
  ['Tab, Shift+Tab', 'Go through everything in order'],
  ['Arrows', 'Move the chosen time by a quarter hour (Plan)'],
  ['Shift+arrows', 'Make the chosen time longer or shorter (Plan)'],
  ['n, p', 'Next and previous opening (Plan)'],
  ['Space or x, o, Delete', 'Set aside and back, optional and required, remove (in the line-up)'],
  ['Up, down', 'From one to the next of the line-up; the day before, the day after (days of Plan)'],
  ['Left, right', 'The time before, the time after (Calendar)'],
  [
    'Arrows',
    'Choose a free time; Shift makes it longer, Enter makes an event (hours of the Calendar)',
  ],
  [
    'Arrows',
    'From place to place, and a time there; Shift makes it longer, Enter goes on to book it, f makes it a favourite (board)',
  ],
  [
    'm',
    'Take up a booking of mine, then arrows to move it, into other places too, Enter to put it down (board)',
  ],
  ['Space', 'Pick up an event, then arrows to move it, a for whole days, Enter to put it down'],
  ['Ctrl+Enter', 'Save or send the form, from any of its fields (in Plan: the meeting)'],
  ['Ctrl+Z', 'Take back what was done last'],
  ['Enter', 'Open or do what is in focus'],
  ['Escape', 'Leave a panel, a menu or a choice'],
];

export function KeysDialog({
  open,
  onOpenChange,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-black/35" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-40 w-[92vw] max-w-lg -translate-x-1/2 -translate-y-1/2 rounded-sm border border-edge bg-paper p-6"
        >
          <Dialog.Title className="mb-3 text-xl">Keys</Dialog.Title>
          <dl className="grid grid-cols-[9rem_1fr] gap-y-1.5">
            {KEYS.map(([key, what]) => (
              <div key={key} className="contents">
                <dt className="font-semibold">{key}</dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
