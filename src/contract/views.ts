/** The addresses of the interface's views; `:id` stands for anything. */
export const VIEWS = [
  '/',
  '/welcome',
  '/calendar',
  '/calendar/cancelled',
  '/events/new',
  '/events/:id',
  '/preferences',
  '/plan',
  '/invitations/:id',
  '/replies',
  '/places',
  '/places/find',
  '/places/board',
  '/places/ledger',
  '/people',
  '/mailroom',
  '/mailroom/:id',
  '/guest/:token',
  '/account/link',
  '/administration',
  '/administration/teams',
  '/administration/sites',
  '/administration/log',
  '/administration/signing-in',
  '/administration/health',
  '/administration/start',
  '/administration/start/:step',
] as const;

export type ViewAddress = (typeof VIEWS)[number];

const parts = (address: string) => address.split('/').filter(Boolean);

/** Whether something is shown at an address, which the page itself finds out once it runs. */
export function isViewAddress(address: string): boolean {
  const given = parts(address);
  return VIEWS.some((view) => {
    const wanted = parts(view);
    return (
      wanted.length === given.length &&
      wanted.every((part, k) => part.startsWith(':') || part === given[k])
    );
  });
}
