import { Command } from 'cmdk';
import { Slot } from 'radix-ui';
import type { ReactElement } from 'react';

/** The library's mark of a field of its own. */
const UNMARKED = { 'cmdk-input': undefined };

/**
 * Makes a field the one over a list of choices, in which the keys stay: by its mark the library would know
 * it for one of its fields, and each of these takes the keys whenever the choices of its own list change.
 */
export const ListField = ({
  isOpen,
  value,
  onChange,
  children,
}: {
  /** Whether the list is to be seen. */
  isOpen: boolean;
  /** What is typed, where it is kept outside. */
  value?: string;
  onChange?: (text: string) => void;
  children: ReactElement;
}) => (
  <Command.Input
    asChild
    {...(value !== undefined && { value })}
    {...(onChange && { onValueChange: onChange })}
  >
    <Slot.Root {...UNMARKED} aria-expanded={isOpen}>
      {children}
    </Slot.Root>
  </Command.Input>
);
