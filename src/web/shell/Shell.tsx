import { Search, X } from 'lucide-react';
import { Suspense, useEffect, useState } from 'react';
import { Link, Outlet, useLocation } from 'react-router';
import { formatTime, zoneCity } from '../../core/time/format.ts';
import { PlaceAboveTheView } from '../design/Above.tsx';
import { IconButton } from '../design/controls.tsx';
import { lazily } from '../design/fetched.ts';
import { Guard } from '../design/Guard.tsx';
import { BesideTheView } from '../design/Panel.tsx';
import { Loading } from '../design/states.tsx';
import { usePhone } from '../design/usePhone.ts';
import { DemonstrationNote, undoLatest, useLive, useMe, useNow } from '../client/index.ts';
import { Bell } from './Bell.tsx';
import { guardClicks } from './clumsyClicks.ts';
import { keepWhatIsTyped } from './keepWhatIsTyped.ts';
import { keepFocus } from './focusHeir.ts';
import { HeaderFieldSoon } from './HeaderFieldSoon.tsx';
import { KeysDialog } from './KeysDialog.tsx';
import { MeMenu } from './MeMenu.tsx';
import { OtherClock } from './OtherClock.tsx';
import { Unreached } from './Unreached.tsx';
import { WaysAbove, WaysBelow } from './Ways.tsx';

const Reminders = lazily(async () => (await import('../reminders/index.ts')).Reminders);

/** The header with its links and field, and the view below it. */
export function Shell() {
  useLive();
  useUndoKey();
  useSendKey();
  useEffect(() => guardClicks(document), []);
  useEffect(keepWhatIsTyped, []);
  useEffect(() => keepFocus(document), []);
  const isPhone = usePhone();
  const { pathname } = useLocation();
  const [keysOpen, setKeysOpen] = useState(false);
  const [fieldOpen, setFieldOpen] = useState(false);
  const onKeys = () => setKeysOpen(true);
  return (
    <div className="flex h-dvh flex-col">
      <a href="#view" className="sr-only focus:not-sr-only focus:p-2">
        Skip to the view
      </a>
      <DemonstrationNote />
      <Unreached />
      <OtherClock />
      {isPhone ? (
        <header className="no-print flex min-h-13 items-center gap-1 border-b border-edge px-4">
          {fieldOpen ? (
            <>
              <HeaderFieldSoon onKeys={onKeys} onGone={() => setFieldOpen(false)} />
              <IconButton label="Close the field" onClick={() => setFieldOpen(false)}>
                <X size={20} aria-hidden="true" />
              </IconButton>
            </>
          ) : (
            <>
              <Home />
              <span className="flex-1" />
              <IconButton label="Find, or say a meeting" onClick={() => setFieldOpen(true)}>
                <Search size={20} aria-hidden="true" />
              </IconButton>
              <Bell />
              <MeMenu onKeys={onKeys} />
            </>
          )}
        </header>
      ) : (
        <header className="no-print flex flex-wrap items-center gap-x-6 gap-y-2 border-b border-edge px-4 py-2 md:px-6">
          <Home />
          <WaysAbove />
          <HeaderFieldSoon onKeys={onKeys} />
          <Clocks />
          <div className="ml-auto flex items-center gap-3 xl:ml-0">
            <Bell />
            <MeMenu onKeys={onKeys} />
          </div>
        </header>
      )}
      <PlaceAboveTheView />
      <div className="flex min-h-0 flex-1">
        {/* What lies on a ground of its own is moved by scrolling; else it would be drawn anew. */}
        <div
          id="view"
          tabIndex={-1}
          className="outline-none flex min-h-0 min-w-0 flex-1 flex-col overflow-y-auto bg-paper print:bg-transparent"
        >
          <Guard what="this view" until={pathname}>
            <Suspense fallback={<Loading what="the view" />}>
              <Outlet />
            </Suspense>
          </Guard>
        </div>
        <BesideTheView />
      </div>
      {isPhone && <WaysBelow />}
      <Guard what="the reminders">
        <Suspense>
          <Reminders />
        </Suspense>
      </Guard>
      <KeysDialog open={keysOpen} onOpenChange={setKeysOpen} />
    </div>
  );
}

const Home = () => (
  <Link to="/" className="reach flex items-center gap-2 font-head text-xl font-bold tracking-tight">
    <Mark />
    Marmot
  </Link>
);

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

/** Ctrl+Enter saves or sends the form that is being typed in, or else what the view is for. */
function useSendKey() {
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.key !== 'Enter' || !(event.ctrlKey || event.metaKey)) return;
      const target = event.target as HTMLElement;
      const form = target.closest('form');
      // From the header or a panel, a view is not sent unawares.
      if (!form && !target.closest('main')) return;
      const button = form
        ? form.querySelector<HTMLButtonElement>('button[type="submit"]')
        : document.querySelector<HTMLButtonElement>('main [data-sends]');
      if (!button || button.disabled) return;
      event.preventDefault();
      // What is still being typed counts once its field is left.
      button.focus();
      setTimeout(() => button.click());
    };
    window.addEventListener('keydown', listen, true);
    return () => window.removeEventListener('keydown', listen, true);
  }, []);
}

const Mark = () => (
  <svg width="26" height="20" viewBox="0 0 26 20" aria-hidden="true">
    <path d="M0 19 6 9l4 5 6-12 10 17z" fill="var(--ink)" />
    <path d="M16 2l3.2 5.4-2 1.5-1.6-1.4-1.9 1.4z" fill="var(--lichen)" />
  </svg>
);

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
