import type { ComponentType } from 'react';
import { createBrowserRouter, Link, Navigate, useRouteError, type RouteObject } from 'react-router';
import { VIEWS, type ViewAddress } from '../../contract/views.ts';
import { fetched } from '../design/fetched.ts';
import { Failure } from '../client/index.ts';
import { Root } from './Root.tsx';

function NotFound() {
  return (
    <main className="mx-auto max-w-xl p-8">
      <h1 className="mb-2 text-2xl">There is nothing at this address</h1>
      <p>
        It may have been mistyped.{' '}
        <Link className="text-gentian underline" to="/">
          Go to Today
        </Link>
      </p>
    </main>
  );
}

const ToToday = () => <Navigate to="/" replace />;

function Broken() {
  return (
    <main className="mx-auto max-w-xl p-8">
      <Failure error={useRouteError()} retry={() => window.location.reload()} />
    </main>
  );
}

/** Each view of the contract’s list, fetched when it is wanted. */
const components: Record<ViewAddress, () => Promise<ComponentType>> = {
  '/': async () => (await import('../today/TodayView.tsx')).TodayView,
  // Whoever is signed in has nothing to set up.
  '/welcome': async () => ToToday,
  '/calendar': async () => (await import('../calendar/CalendarView.tsx')).CalendarView,
  '/calendar/cancelled': async () => (await import('../calendar/CancelledView.tsx')).CancelledView,
  '/events/new': async () => (await import('../events/NewEventPage.tsx')).NewEventPage,
  '/events/:id': async () => (await import('../events/EventPage.tsx')).EventPage,
  '/preferences': async () => (await import('../preferences/PreferencesView.tsx')).PreferencesView,
  '/plan': async () => (await import('../plan/PlanView.tsx')).PlanView,
  '/invitations/:id': async () =>
    (await import('../invitations/InvitationView.tsx')).InvitationView,
  '/replies': async () => (await import('../invitations/RepliesView.tsx')).RepliesView,
  '/places': async () => (await import('../places/PlacesView.tsx')).PlacesView,
  '/places/find': async () => (await import('../places/FindView.tsx')).FindView,
  '/places/board': async () => (await import('../board/BoardView.tsx')).BoardView,
  '/places/ledger': async () => (await import('../ledger/LedgerView.tsx')).LedgerView,
  '/people': async () => (await import('../people/PeopleView.tsx')).PeopleView,
  '/mailroom': async () => (await import('../mailroom/MailroomView.tsx')).MailroomView,
  '/mailroom/:id': async () => (await import('../mailroom/MailroomView.tsx')).MailroomView,
  '/guest/:token': async () => (await import('../guest/GuestView.tsx')).GuestView,
  '/account/link': async () => (await import('../session/LinkView.tsx')).LinkView,
  '/administration': async () =>
    (await import('../administration/AdministrationView.tsx')).AdministrationView,
  '/administration/teams': async () => (await import('../administration/TeamsView.tsx')).TeamsView,
  '/administration/sites': async () => (await import('../administration/SitesView.tsx')).SitesView,
  '/administration/log': async () => (await import('../administration/LogView.tsx')).LogView,
  '/administration/signing-in': async () =>
    (await import('../administration/SigningInView.tsx')).SigningInView,
  '/administration/health': async () =>
    (await import('../administration/HealthView.tsx')).HealthView,
  '/administration/start': async () => (await import('../administration/StartView.tsx')).StartView,
  '/administration/start/:step': async () =>
    (await import('../administration/StartView.tsx')).StartView,
};

/** What needs nobody who is signed in. */
const OPEN: readonly ViewAddress[] = ['/guest/:token', '/account/link'];

const viewAt = (path: ViewAddress): RouteObject => ({
  path,
  lazy: async () => ({ Component: await fetched(components[path]) }),
});

const views: RouteObject[] = [
  ...VIEWS.filter((path) => !OPEN.includes(path)).map(viewAt),
  { path: '*', Component: NotFound },
];

const designPage: RouteObject[] = import.meta.env.DEV
  ? [
      {
        path: '/design',
        lazy: async () => ({ Component: (await import('../studio/DesignPage.tsx')).DesignPage }),
      },
    ]
  : [];

export const router = createBrowserRouter([
  ...designPage,
  ...OPEN.map((path) => ({
    ...viewAt(path),
    ErrorBoundary: Broken,
    HydrateFallback: () => null,
  })),
  {
    path: '/',
    Component: Root,
    ErrorBoundary: Broken,
    HydrateFallback: () => null,
    children: views,
  },
]);
