import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { SignInProblem } from '../../contract/providers.ts';
import { answerTo, callApi, errorText, useChanged } from '../client/index.ts';
import { Button } from '../design/controls.tsx';

/** Why somebody who came back from a provider is not signed in, and what they can do. */
const PROBLEMS: Record<SignInProblem, string> = {
  refused: 'You did not sign in there. Try again, or use your password.',
  over: 'That took too long, or was begun in another browser. Try again.',
  unknown: 'Nobody here has your address. Ask whoever administers Marmot to invite you.',
  unverified: 'Your address is not confirmed there. Confirm it, or use your password.',
  another: 'Your address belongs to somebody else there already. Ask whoever administers Marmot.',
  ended: 'Your access has ended. Ask whoever administers Marmot if you should have it.',
  away: 'It does not answer just now. Try again shortly, or use your password.',
  'not-right': 'What came back could not be trusted. Try again, or use your password.',
};

/** The ways to sign in besides a password: a passkey, and those who vouch for people. */
export function WaysIn({ onProblem }: { onProblem: (words: string | null) => void }) {
  const changed = useChanged();
  const providers = useQuery(answerTo('GET /api/sign-in/providers'));
  const [isBusy, setBusy] = useState(false);
  const attempt = async (work: () => Promise<void>) => {
    setBusy(true);
    onProblem(null);
    try {
      await work();
    } catch (error) {
      onProblem(wordsFor(error));
    } finally {
      setBusy(false);
    }
  };
  const byPasskey = async () => {
    const [{ startAuthentication }, options] = await Promise.all([
      import('@simplewebauthn/browser'),
      callApi('POST /api/sign-in/passkey/options'),
    ]);
    const response = await startAuthentication({ optionsJSON: options as never });
    await callApi('POST /api/sign-in/passkey', { body: { response: response as never } });
    await changed('person');
  };
  const byProvider = async (id: number) => {
    const { pathname, search } = window.location;
    const query = new URLSearchParams(search);
    query.delete('sign-in');
    const leadsTo = pathname + (query.size > 0 ? `?${query.toString()}` : '');
    const { location } = await callApi('POST /api/sign-in/providers/:id', {
      params: { id },
      body: { leadsTo },
    });
    window.location.assign(location);
  };
  return (
    <div
      role="group"
      aria-label="Other ways to sign in"
      className="mt-6 grid gap-2 border-t border-edge pt-4"
    >
      {providers.data?.providers.map(({ id, name }) => (
        <Button key={id} disabled={isBusy} onClick={() => void attempt(() => byProvider(id))}>
          Sign in by {name}
        </Button>
      ))}
      <Button disabled={isBusy} onClick={() => void attempt(byPasskey)}>
        Sign in with a passkey
      </Button>
    </div>
  );
}

/** What a browser says where somebody gave up, or there is nothing to sign with. */
function wordsFor(error: unknown): string {
  const { name } = error as Error;
  if (name === 'NotAllowedError' || name === 'AbortError')
    return 'No passkey was used. Try again, or use your password.';
  if (name === 'NotSupportedError' || name === 'SecurityError')
    return 'This browser has no passkeys here. Use your password.';
  return errorText(error);
}

/** Why they are not signed in, by the address with which they came back; null where they did not. */
export function problemInAddress(): string | null {
  const code = new URLSearchParams(window.location.search).get('sign-in');
  return code && code in PROBLEMS ? PROBLEMS[code as SignInProblem] : null;
}
