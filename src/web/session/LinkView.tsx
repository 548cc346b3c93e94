import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { LEAST_PASSWORD } from '../../contract/limits.ts';
import { formatTime, zoneCity } from '../../core/time/format.ts';
import { isZone } from '../../core/time/zones.ts';
import { ApiProblem, callApi, errorText } from '../client/index.ts';
import { Button, Field, TextInput } from '../design/controls.tsx';
import { Loading } from '../design/states.tsx';
import { Tick } from '../design/ticks.tsx';
import { ZoneChoice } from '../time/index.ts';

const OWN_ZONE = Intl.DateTimeFormat().resolvedOptions().timeZone;

/** Whoever has a link from a letter chooses a password, and is in. */
export function LinkView() {
  // Read once: behind the number sign, so that no server on the way writes it down.
  const [token] = useState(() => window.location.hash.slice(1));
  const link = useQuery({
    queryKey: ['POST /api/account/link', token],
    queryFn: () => callApi('POST /api/account/link', { body: { token } }),
    retry: false,
    enabled: token !== '',
    staleTime: Infinity,
  });
  if (link.isPending && token !== '')
    return (
      <main className="mx-auto w-full max-w-md px-5 py-10">
        <Loading what="your link" />
      </main>
    );
  if (!link.data)
    return (
      <main className="mx-auto w-full max-w-md px-5 py-10">
        <h1 className="mb-2 text-2xl">This link leads nowhere any more</h1>
        <p className="mb-4">
          {token === '' ? 'Open the whole link that stands in your letter.' : errorText(link.error)}
        </p>
        <p>
          <Link className="font-semibold text-gentian hover:underline" to="/">
            Sign in
          </Link>
          , or ask there for another link.
        </p>
      </main>
    );
  return <Choosing token={token} {...link.data} />;
}

function Choosing({
  token,
  purpose,
  organization,
  name,
  email,
  zone: known,
}: {
  token: string;
  purpose: 'welcome' | 'password';
  organization: string;
  name: string;
  email: string;
  zone: string;
}) {
  const isWelcome = purpose === 'welcome';
  const [password, setPassword] = useState('');
  const [zone, setZone] = useState(
    isWelcome && isZone(OWN_ZONE) && OWN_ZONE !== 'UTC' ? OWN_ZONE : known,
  );
  const [isShown, setIsShown] = useState(false);
  const [isBusy, setIsBusy] = useState(false);
  const [problem, setProblem] = useState<unknown>(null);
  const [now] = useState(Date.now);
  const wrong = problem instanceof ApiProblem ? problem.field('password') : undefined;
  const use = async () => {
    setIsBusy(true);
    setProblem(null);
    try {
      await callApi('POST /api/account/link/use', {
        body: { token, password, ...(zone !== known && { zone }) },
      });
      // A page of their own from here on: the link is not kept in what can be gone back to.
      window.location.replace('/');
    } catch (error) {
      setProblem(error);
      setIsBusy(false);
    }
  };
  return (
    <main className="mx-auto w-full max-w-md px-5 py-10">
      <p className="mb-1 text-ink-2">{organization}</p>
      <h1 className="mb-1 text-3xl">
        {isWelcome ? `Welcome, ${name.split(' ')[0]}` : 'Another password'}
      </h1>
      <p className="mb-6 text-ink-2">You sign in as {email}.</p>
      <form
        noValidate
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          void use();
        }}
      >
        {/* For those who keep passwords: whose it is. */}
        <input type="email" autoComplete="username" value={email} readOnly hidden />
        <Field
          label="Choose a password"
          error={wrong && `It ${wrong}.`}
          hint={`At least ${LEAST_PASSWORD} characters. A few words are easier to keep in mind than signs.`}
        >
          <TextInput
            autoFocus
            type={isShown ? 'text' : 'password'}
            autoComplete="new-password"
            maxLength={200}
            aria-invalid={!!wrong}
            value={password}
            onChange={(event) => setPassword(event.target.value)}
          />
        </Field>
        <Tick label="Show what I type" on={isShown} onChange={setIsShown} />
        {isWelcome && (
          <Field
            label="Your clock"
            hint={`It is ${formatTime(now, zone)} in ${zoneCity(zone)}. Is that right?`}
          >
            <ZoneChoice value={zone} onChange={setZone} />
          </Field>
        )}
        {problem !== null && !wrong && (
          <p role="alert" className="rounded-sm bg-glow-wash px-3 py-2 font-semibold">
            {errorText(problem)}
          </p>
        )}
        <Button look="act" type="submit" disabled={isBusy || password.length < LEAST_PASSWORD}>
          {isWelcome ? 'Come in' : 'Keep it and sign in'}
        </Button>
      </form>
    </main>
  );
}
