import { useQuery } from '@tanstack/react-query';
import { DropdownMenu } from 'radix-ui';
import { Suspense, useEffect, useState } from 'react';
import { Link, NavLink, Outlet } from 'react-router';
import { formatTime, zoneCity } from '../../core/time/format.ts';
import type { WaitingInvitation } from '../../contract/invitations.ts';
import { Loading } from '../design/states.tsx';
import { readApi } from './api.ts';
import { HeaderField } from './HeaderField.tsx';
import { KeysDialog } from './KeysDialog.tsx';
import { useLive } from './live.ts';
import { useMe, useNow, useSignOut } from './session.ts';
import { undoLatest } from './undo.ts';
import { readTheme, setTheme, type Theme } from './theme.ts';

const VIEWS = [
  ['/', 'Today'],
  ['/calendar', 'Calendar'],
  ['/plan', 'Plan'],
  ['/replies', 'Replies'],
  ['/places', 'Places'],
  ['/people', 'People'],
] as const;

/** The header with its links and field, and the view below it. */
export function Shell() {
  useLive();
  useUndoKey();
  const [keysOpen, setKeysOpen] = useState(false);
  return (
    <div className="flex h-dvh flex-col">
      <a href="#view" className="sr-only focus:not-sr-only focus:p-2">
        Skip to the view
      </a>
      <header className="no-print flex flex-wrap items-center gap-x-6 gap-y-2 border-b border-edge px-4 py-2 md:px-6">
        <Link to="/" className="flex items-center gap-2 font-head text-xl font-bold tracking-tight">
          <Mark />
          Marmot
        </Link>
        <Navigation />
        <HeaderField onKeys={() => setKeysOpen(true)} />
        <Clocks />
        <MeMenu onKeys={() => setKeysOpen(true)} />
      </header>
      <div id="view" className="flex min-h-0 flex-1 flex-col overflow-y-auto">
        <Suspense fallback={<Loading what="the view" />}>
          <Outlet />
        </Suspense>
      </div>
      <KeysDialog open={keysOpen} onOpenChange={setKeysOpen} />
    </div>
  );
}

/** Ctrl+Z takes back what was done last, unless something is being typed. */
function useUndoKey() {
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.key !== 'z' || !(event.ctrlKey || event.metaKey) || event.shiftKey) return;
      const target = event.target as HTMLElement;
      if (/^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) || target.isContentEditable) return;
      if (undoLatest()) event.preventDefault();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
}

const Mark = () => (
  <svg width="26" height="20" viewBox="0 0 26 20" aria-hidden="true">
    <path d="M0 19 6 9l4 5 6-12 10 17z" fill="var(--ink)" />
    <path d="M16 2l3.2 5.4-2 1.5-1.6-1.4-1.9 1.4z" fill="var(--lichen)" />
  </svg>
);

function Navigation() {
  const waiting = useQuery({
    queryKey: ['invitations', 'waiting'],
    queryFn: () => readApi<{ waiting: WaitingInvitation[] }>('/invitations'),
  });
  const count = waiting.data?.waiting.length ?? 0;
  return (
    <nav
      aria-label="Views"
      className="order-last flex w-full gap-x-4 overflow-x-auto md:order-none md:w-auto"
    >
      {VIEWS.map(([to, label]) => (
        <NavLink
          key={to}
          to={to}
          end={to === '/'}
          className={({ isActive }) =>
            `shrink-0 border-b-2 py-1 font-medium ${isActive ? 'border-lichen font-semibold text-ink' : 'border-transparent text-ink-2 hover:text-ink'}`
          }
        >
          {label}
          {to === '/' && count > 0 && (
            <b
              className="ml-1 text-alpenglow"
              aria-label={`${count} invitations wait for your answer`}
            >
              {count}
            </b>
          )}
        </NavLink>
      ))}
    </nav>
  );
}

function Clocks() {
  const me = useMe();
  const now = useNow();
  return (
    <div className="hidden gap-3 text-xs text-ink-2 xl:flex" aria-label="Time in my zones">
      {[me.zone, ...me.furtherZones].map((zone) => (
        <span key={zone}>
          {me.zoneNames[zone] ?? zoneCity(zone)}{' '}
          <b className="font-semibold text-ink">{formatTime(now, zone, me.clock)}</b>
        </span>
      ))}
    </div>
  );
}

const ITEM =
  'block cursor-pointer rounded-sm px-3 py-1.5 outline-none data-[highlighted]:bg-gentian-wash';
const THEMES: [Theme, string][] = [
  ['system', 'As this device'],
  ['light', 'Light'],
  ['dark', 'Dark'],
];

function MeMenu({ onKeys }: { onKeys: () => void }) {
  const me = useMe();
  const signOut = useSignOut();
  const [theme, keepTheme] = useState(readTheme);
  const choose = (next: string) => {
    setTheme(next as Theme);
    keepTheme(next as Theme);
  };
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="ml-auto rounded-sm border border-edge bg-sheet px-2.5 py-1 font-semibold xl:ml-0">
        {me.name.split(' ')[0]}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={6}
          className="z-40 min-w-56 rounded-sm border border-edge bg-sheet p-1.5 shadow-lg"
        >
          <DropdownMenu.Label className="px-3 py-1.5 text-ink-2">
            {me.name}
            <br />
            {me.email}
          </DropdownMenu.Label>
          <DropdownMenu.Item asChild className={ITEM}>
            <Link to="/preferences">Preferences</Link>
          </DropdownMenu.Item>
          <DropdownMenu.Item asChild className={ITEM}>
            <Link to="/calendar/cancelled">Cancelled lately</Link>
          </DropdownMenu.Item>
          <DropdownMenu.Item asChild className={ITEM}>
            <Link to="/mailroom">Mailroom</Link>
          </DropdownMenu.Item>
          <DropdownMenu.Item className={ITEM} onSelect={onKeys}>
            Keys
          </DropdownMenu.Item>
          <DropdownMenu.Separator className="my-1 h-px bg-edge" />
          <DropdownMenu.RadioGroup value={theme} onValueChange={choose}>
            {THEMES.map(([value, label]) => (
              <DropdownMenu.RadioItem
                key={value}
                value={value}
                className={`${ITEM} data-[state=checked]:font-semibold`}
              >
                {label}
                {theme === value ? ', shown now' : ''}
              </DropdownMenu.RadioItem>
            ))}
          </DropdownMenu.RadioGroup>
          <DropdownMenu.Separator className="my-1 h-px bg-edge" />
          <DropdownMenu.Item className={ITEM} onSelect={() => void signOut()}>
            Sign out
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
