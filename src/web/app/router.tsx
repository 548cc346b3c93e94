import { createBrowserRouter, Link, useRouteError, type RouteObject } from 'react-router';
import { Root } from './Root.tsx';
import { Failure } from '../design/states.tsx';

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

function Broken() {
  return (
    <main className="mx-auto max-w-xl p-8">
      <Failure error={useRouteError()} retry={() => window.location.reload()} />
    </main>
  );
}

const views: RouteObject[] = [
  {
    index: true,
    lazy: async () => ({ Component: (await import('../today/TodayView.tsx')).TodayView }),
  },
  {
    path: 'calendar',
    lazy: async () => ({ Component: (await import('../calendar/CalendarView.tsx')).CalendarView }),
  },
  {
    path: 'calendar/cancelled',
    lazy: async () => ({
      Component: (await import('../calendar/CancelledView.tsx')).CancelledView,
    }),
  },
  {
    path: 'events/new',
    lazy: async () => ({ Component: (await import('../calendar/EventPage.tsx')).NewEventPage }),
  },
  {
    path: 'events/:id',
    lazy: async () => ({ Component: (await import('../calendar/EventPage.tsx')).EventPage }),
  },
  {
    path: 'preferences',
    lazy: async () => ({
      Component: (await import('../preferences/PreferencesView.tsx')).PreferencesView,
    }),
  },
  {
    path: 'plan',
    lazy: async () => ({ Component: (await import('../plan/PlanView.tsx')).PlanView }),
  },
  {
    path: 'invitations/:id',
    lazy: async () => ({
      Component: (await import('../invitations/InvitationView.tsx')).InvitationView,
    }),
  },
  {
    path: 'replies',
    lazy: async () => ({ Component: (await import('../invitations/RepliesView.tsx')).RepliesView }),
  },
  {
    path: 'places',
    lazy: async () => ({ Component: (await import('../places/PlacesView.tsx')).PlacesView }),
  },
  {
    path: 'people',
    lazy: async () => ({ Component: (await import('../people/PeopleView.tsx')).PeopleView }),
  },
  {
    path: 'mailroom',
    lazy: async () => ({ Component: (await import('../mailroom/MailroomView.tsx')).MailroomView }),
  },
  {
    path: 'mailroom/:id',
    lazy: async () => ({ Component: (await import('../mailroom/MailroomView.tsx')).MailroomView }),
  },
  { path: '*', Component: NotFound },
];

const designPage: RouteObject[] = import.meta.env.DEV
  ? [
      {
        path: '/design',
        lazy: async () => ({ Component: (await import('../design/DesignPage.tsx')).DesignPage }),
      },
    ]
  : [];

export const router = createBrowserRouter([
  ...designPage,
  {
    path: '/',
    Component: Root,
    ErrorBoundary: Broken,
    HydrateFallback: () => null,
    children: views,
  },
]);
