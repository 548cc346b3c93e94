import { Failure } from './Failure.tsx';
import { lazy, Suspense, useMemo } from 'react';
import { useLocation } from 'react-router';
import { Toasts } from '../design/Toasts.tsx';
import { SignedInContext, useSession } from './session.ts';
import { Shell } from './Shell.tsx';

const SignInView = lazy(() =>
  import('../session/SignInView.tsx').then((module) => ({ default: module.SignInView })),
);

const SetupView = lazy(() =>
  import('../session/SetupView.tsx').then((module) => ({ default: module.SetupView })),
);

/** Everything but the sign-in needs somebody; whoever is not signed in is asked to, at any address. */
export function Root() {
  const session = useSession();
  const isWelcome = useLocation().pathname === '/welcome';
  const state = session.data;
  const signedIn = useMemo(
    () =>
      state?.me && state.preferences
        ? {
            me: state.me,
            preferences: state.preferences,
            organization: state.organization,
            ahead: state.now - Date.now(),
            fixedAt: state.clockFixed ? state.now : null,
          }
        : null,
    [state],
  );
  if (session.isPending) return null;
  if (session.isError) {
    return (
      <main className="mx-auto max-w-xl p-8">
        <Failure error={session.error} retry={() => void session.refetch()} />
      </main>
    );
  }
  return (
    <>
      {signedIn ? (
        <SignedInContext value={signedIn}>
          <Shell />
        </SignedInContext>
      ) : (
        <Suspense>
          {isWelcome && session.data.needsSetup ? (
            <SetupView />
          ) : (
            <SignInView state={session.data} />
          )}
        </Suspense>
      )}
      <Toasts />
    </>
  );
}
