import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { Link } from 'react-router';
import { initialsOf } from '../design/Initials.tsx';
import { may, readTheme, setTheme, type Theme, useMe, useSignOut } from '../client/index.ts';
import { MENU, MENU_ITEM } from './menu.ts';

const THEMES: [Theme, string][] = [
  ['system', 'As this device'],
  ['light', 'Light'],
  ['dark', 'Dark'],
];

/** Who I am, and what concerns me alone. */
export function MeMenu({ onKeys }: { onKeys: () => void }) {
  const me = useMe();
  const signOut = useSignOut();
  const [theme, keepTheme] = useState(readTheme);
  const choose = (next: string) => {
    setTheme(next as Theme);
    keepTheme(next as Theme);
  };
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="grid size-9 shrink-0 place-items-center rounded-full bg-ink font-head text-xs font-bold text-paper max-sm:size-11">
        <span aria-hidden="true">{initialsOf(me.name)}</span>
        <span className="sr-only">{me.name.split(' ')[0]}</span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal container={document.querySelector('header')}>
        <DropdownMenu.Content align="end" sideOffset={6} className={MENU}>
          <DropdownMenu.Label className="px-3 py-1.5 text-ink-2">
            {me.name}
            <br />
            {me.email}
          </DropdownMenu.Label>
          <DropdownMenu.Item asChild className={MENU_ITEM}>
            <Link to="/preferences">Preferences</Link>
          </DropdownMenu.Item>
          {may(me, 'administer') && (
            <DropdownMenu.Item asChild className={MENU_ITEM}>
              <Link to="/administration">Administration</Link>
            </DropdownMenu.Item>
          )}
          <DropdownMenu.Item asChild className={MENU_ITEM}>
            <Link to="/calendar/cancelled">Cancelled lately</Link>
          </DropdownMenu.Item>
          <DropdownMenu.Item asChild className={MENU_ITEM}>
            <Link to="/mailroom">Mailroom</Link>
          </DropdownMenu.Item>
          <DropdownMenu.Item className={MENU_ITEM} onSelect={onKeys}>
            Keys
          </DropdownMenu.Item>
          <DropdownMenu.Separator className="my-1 h-px bg-edge" />
          <DropdownMenu.RadioGroup value={theme} onValueChange={choose}>
            {THEMES.map(([value, label]) => (
              <DropdownMenu.RadioItem
                key={value}
                value={value}
                className={`${MENU_ITEM} data-[state=checked]:font-semibold`}
              >
                {label}
                {theme === value ? ', shown now' : ''}
              </DropdownMenu.RadioItem>
            ))}
          </DropdownMenu.RadioGroup>
          <DropdownMenu.Separator className="my-1 h-px bg-edge" />
          <DropdownMenu.Item className={MENU_ITEM} onSelect={() => void signOut()}>
            Sign out
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
