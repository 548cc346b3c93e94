import { Command } from 'cmdk';
import { ChevronDown } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { INPUT } from './controls.tsx';
import { ListField } from './ListField.tsx';

export interface SearchGroup {
  heading: string;
  options: readonly { value: string; words: string }[];
}

/** One of very many values, found by typing a part of it. */
export function SearchSelect({
  value,
  groups,
  onChange,
  placeholder,
  ...described
}: {
  value: string;
  groups: readonly SearchGroup[];
  onChange: (value: string) => void;
  placeholder: string;
  id?: string;
  'aria-describedby'?: string;
}) {
  const [open, setOpen] = useState(false);
  const shown = groups.flatMap((group) => group.options).find((one) => one.value === value);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        className={`${INPUT} flex w-full items-center justify-between gap-2 text-left max-sm:min-h-11`}
        {...described}
      >
        <span className="min-w-0 truncate">{shown?.words ?? value}</span>
        <ChevronDown size={14} aria-hidden="true" className="shrink-0" />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          collisionPadding={8}
          aria-label={placeholder}
          className="z-50 w-72 rounded-sm border border-edge bg-sheet p-2 shadow-lg"
        >
          <Command label={placeholder} defaultValue={value}>
            <ListField isOpen>
              <input
                autoFocus
                placeholder={placeholder}
                className="w-full rounded-sm border border-edge bg-paper px-2.5 py-1.5 placeholder:text-ink-2"
              />
            </ListField>
            <Command.List className="mt-1 max-h-64 overflow-y-auto">
              <Command.Empty className="px-2 py-1.5 text-ink-2">
                Nothing is called so.
              </Command.Empty>
              {groups.map((group) => (
                <Command.Group
                  key={group.heading}
                  heading={group.heading}
                  className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:py-1 [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:font-semibold [&_[cmdk-group-heading]]:text-ink-2"
                >
                  {group.options.map((one) => (
                    <Command.Item
                      key={one.value}
                      value={one.value}
                      keywords={[one.words]}
                      onSelect={() => {
                        setOpen(false);
                        onChange(one.value);
                      }}
                      className={`cursor-pointer rounded-sm px-2 py-1 data-[selected=true]:bg-gentian-wash max-sm:py-2.5 ${one.value === value ? 'font-semibold' : ''}`}
                    >
                      {one.words}
                    </Command.Item>
                  ))}
                </Command.Group>
              ))}
            </Command.List>
          </Command>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
