/** Days that are being read from what was typed; the reader of days comes with the first of them. */
const reading = new Set<Promise<unknown>>();

/** Says that a typed day is being read. */
export function isBeingRead(day: Promise<unknown>): void {
  reading.add(day);
  void day.finally(() => reading.delete(day));
}

/** What React makes of a read day stands in the page after this. */
const drawn = () => new Promise((resolve) => setTimeout(resolve, 20));

/** The first typed day of a form, or of the page, that is not read or cannot be. */
const unreadIn = (within: ParentNode) =>
  within.querySelector<HTMLInputElement>('input[data-unread]');

/**
 * A form is sent with the days that stand in it: pressed while one is being read, its button acts once
 * that is read, and not at all where it cannot be.
 */
async function hold(event: MouseEvent): Promise<void> {
  const button = (event.target as Element).closest<HTMLButtonElement>(
    'button[type="submit"], button[data-sends]',
  );
  const within = button?.form ?? document;
  if (!button || !unreadIn(within)) return;
  event.preventDefault();
  event.stopImmediatePropagation();
  await Promise.allSettled(reading);
  await drawn();
  const unread = unreadIn(within);
  if (unread) unread.focus();
  else if (button.isConnected) button.click();
}

if (typeof document !== 'undefined')
  document.addEventListener('click', (event) => void hold(event), true);
