import type { ReactNode } from 'react';
import { NavLink } from 'react-router';
import { may, useMe } from '../client/index.ts';
import { Empty } from '../design/states.tsx';

/** The parts of the administration, each a list of its own. */
const PARTS = [
  ['/administration', 'People'],
  ['/administration/teams', 'Teams'],
  ['/administration/sites', 'Sites and holidays'],
  ['/administration/log', 'Log'],
  ['/administration/signing-in', 'Signing in'],
  ['/administration/health', 'Health'],
  ['/administration/start', 'First hour'],
] as const;

/** The head of the administration, for those who may; others are told so. */
export function AdminFrame({ children }: { children: ReactNode }) {
  const me = useMe();
  if (!may(me, 'administer'))
    return (
      <main className="mx-auto w-full max-w-6xl px-4 py-5 md:px-6">
        <h1 className="mb-4 text-[26px]">Administration</h1>
        <Empty title="Only administrators come in here">
          Ask one of them to change who is here, what a site is called or when it is closed.
        </Empty>
      </main>
    );
  return (
    <main className="w-full">
      <div className="flex flex-wrap items-end justify-between gap-x-6 gap-y-1 border-b border-edge px-4 pt-3 md:px-6">
        <h1 className="pb-2 text-[26px] max-sm:text-[20px]">Administration</h1>
        <nav aria-label="Administration" className="flex gap-x-5 overflow-x-auto">
          {PARTS.map(([to, label]) => (
            <NavLink
              key={to}
              to={to}
              end={to === '/administration'}
              className={({ isActive }) =>
                `shrink-0 border-b-2 py-2 font-medium ${isActive ? 'border-lichen font-semibold text-ink' : 'border-transparent text-ink-2 hover:text-ink'}`
              }
            >
              {label}
            </NavLink>
          ))}
        </nav>
      </div>
      {children}
    </main>
  );
}
