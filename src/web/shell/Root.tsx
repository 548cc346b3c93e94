import { useQueryClient } from '@tanstack/react-query';
import { Suspense, useMemo, useState } from 'react';
import { useLocation } from 'react-router';
import { lazily } from '../design/fetched.ts';
import { Toasts } from '../design/Toasts.tsx';
import {
  Failure,
  forgetAll,
  SignedInContext,
  tellTabs,
  useSession,
  useSignedOut,
} from '../client/index.ts';
import { Shell } from './Shell.tsx';

const SignInView = lazily(async () => (await import('../session/SignInView.tsx')).SignInView);
const SignInAgainView = lazily(
  async () => (await import('../session/SignInAgainView.tsx')).SignInAgainView,
);
const SetupView = lazily(async () => (await import('../session/SetupView.tsx')).SetupView);

/** Everything but the sign-in needs somebody; whoever is not signed in is asked to, at any address. */
export function Root() {
  const session = useSession();
  const isWelcome = useLocation().pathname === '/welcome';
  const state = session.data;
  const client = useQueryClient();
  const present = useMemo(
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
  // Whose session ends stays in their view until they have signed in again.
  const [last, setLast] = useState(present);
  if (present && present !== last) setLast(present);
  const isOut = useSignedOut(state?.me) !== null;
  const signedIn = present ?? (isOut ? last : null);
  if (session.isPending) return null;
  // What is shown stays, also where it cannot be read again just now.
  if (!state) {
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
          {isOut && (
            <Suspense>
              <SignInAgainView
                me={signedIn.me}
                onSignedIn={async () => {
                  await client.invalidateQueries();
                  tellTabs();
                }}
                onAnother={() => {
                  forgetAll();
                  window.location.assign('/');
                }}
              />
            </Suspense>
          )}
        </SignedInContext>
      ) : (
        <Suspense>
          {isWelcome && state.needsSetup ? <SetupView /> : <SignInView state={state} />}
        </Suspense>
      )}
      <Toasts />
    </>
  );
}
