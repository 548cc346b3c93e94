import { CalendarDays, DoorOpen, House, Menu, Mountain, type LucideIcon } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { Link, NavLink, useLocation } from 'react-router';
import { may, useMe } from '../client/index.ts';
import { MENU, MENU_ITEM } from './menu.ts';

/** The views, in the order in which a day needs them. */
const WAYS = [
  ['/', 'Today'],
  ['/calendar', 'Calendar'],
  ['/plan', 'Plan'],
  ['/replies', 'Replies'],
  ['/places', 'Places'],
  ['/people', 'People'],
] as const;

/** Those that stand under the thumb; the others are one step further. */
const UNDER_THE_THUMB: [string, string, LucideIcon][] = [
  ['/', 'Today', House],
  ['/calendar', 'Calendar', CalendarDays],
  ['/plan', 'Plan', Mountain],
  ['/places', 'Places', DoorOpen],
];
const FURTHER = [
  ['/replies', 'Replies'],
  ['/people', 'People'],
  ['/calendar/cancelled', 'Cancelled lately'],
  ['/preferences', 'Preferences'],
  ['/mailroom', 'Mailroom'],
] as const;

/** The ways to the views as words in the header. */
export function WaysAbove() {
  return (
    <nav aria-label="Views" className="flex gap-x-4">
      {WAYS.map(([to, label]) => (
        <NavLink
          key={to}
          to={to}
          end={to === '/'}
          className={({ isActive }) =>
            `shrink-0 border-b-2 py-1 font-medium ${isActive ? 'border-lichen font-semibold text-ink' : 'border-transparent text-ink-2 hover:text-ink'}`
          }
        >
          {label}
        </NavLink>
      ))}
    </nav>
  );
}

const CELL =
  'grid min-h-14 flex-1 place-items-center content-center gap-0.5 text-xs aria-[current=page]:font-semibold aria-[current=page]:text-ink data-[here=true]:font-semibold data-[here=true]:text-ink text-ink-2';

/** The same at the lower edge of a phone. */
export function WaysBelow() {
  const { pathname } = useLocation();
  const me = useMe();
  const ways = [
    ...FURTHER,
    ...(may(me, 'administer') ? [['/administration', 'Administration'] as const] : []),
  ];
  const further = ways.some(
    ([to]) => pathname === to || (to === '/administration' && pathname.startsWith(to)),
  );
  return (
    <nav
      aria-label="Views"
      className="no-print flex border-t border-edge bg-sheet pb-[env(safe-area-inset-bottom)]"
    >
      {UNDER_THE_THUMB.map(([to, label, Icon]) => (
        <NavLink key={to} to={to} end={to === '/' || further} className={CELL}>
          <Icon size={20} aria-hidden="true" />
          {label}
        </NavLink>
      ))}
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger className={CELL} data-here={further}>
          <Menu size={20} aria-hidden="true" />
          More
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal container={document.querySelector('nav')}>
          <DropdownMenu.Content side="top" align="end" sideOffset={6} className={MENU}>
            {ways.map(([to, label]) => (
              <DropdownMenu.Item key={to} asChild className={`${MENU_ITEM} py-3`}>
                <Link to={to}>{label}</Link>
              </DropdownMenu.Item>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </nav>
  );
}
