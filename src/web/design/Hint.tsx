import { Tooltip } from 'radix-ui';
import type { ReactElement } from 'react';

/** Words that appear beside what the pointer rests on or the keyboard reaches. */
export function Hint({ words, children }: { words: string; children: ReactElement }) {
  return (
    <Tooltip.Provider delayDuration={400}>
      <Tooltip.Root>
        <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
        <Tooltip.Portal>
          <Tooltip.Content
            sideOffset={6}
            collisionPadding={8}
            className="z-50 max-w-64 rounded-sm bg-ink px-2 py-1 text-xs text-paper"
          >
            {words}
          </Tooltip.Content>
        </Tooltip.Portal>
      </Tooltip.Root>
    </Tooltip.Provider>
  );
}
