import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { LEAST_PASSWORD } from '../../contract/limits.ts';
import { formatNear } from '../../core/time/format.ts';
import {
  answerTo,
  ApiProblem,
  callApi,
  errorText,
  Failure,
  useChanged,
  useMe,
  useNow,
} from '../client/index.ts';
import { Button, Field, TextInput } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { Outline } from '../design/states.tsx';
import { Tick } from '../design/ticks.tsx';
import { Passkeys } from './Passkeys.tsx';

/** My password, and where I am signed in. */
export function Account() {
  return (
    <div className="grid gap-6 md:grid-cols-2">
      <ChangePassword />
      <Sessions />
      <Passkeys />
      <Archive />
    </div>
  );
}

/** All that is kept of me, as one file. */
const Archive = () => (
  <section aria-labelledby="archive" className="grid content-start gap-2">
    <h3 id="archive" className="mb-1 font-text text-[13.5px] font-semibold">
      All that is kept of you
    </h3>
    <p className="text-ink-2">
      Your calendar, meetings, bookings, letters, news, settings and files in one archive: a list of
      JSON each, a calendar file, and the files as they are. Secrets are left out.
    </p>
    <a
      className="reach w-fit font-semibold text-gentian hover:underline"
      href="/api/account/archive"
      download
    >
      Download it (ZIP)
    </a>
  </section>
);

function ChangePassword() {
  const me = useMe();
  const [old, setOld] = useState('');
  const [password, setPassword] = useState('');
  const [endOthers, setEndOthers] = useState(true);
  const changed = useChanged();
  const change = useMutation({
    mutationFn: () => callApi('POST /api/account/password', { body: { old, password, endOthers } }),
    onSuccess: () => {
      setOld('');
      setPassword('');
      tellUser(
        endOthers
          ? 'Your password is changed. You are signed out everywhere else.'
          : 'Your password is changed.',
      );
      void changed('person');
    },
  });
  const wrong = (field: string) => {
    const message = change.error instanceof ApiProblem ? change.error.field(field) : undefined;
    return message && `It ${message}.`;
  };
  const isNamed = !!wrong('old') || !!wrong('password');
  return (
    <form
      noValidate
      aria-label="Another password"
      className="grid content-start gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        change.mutate();
      }}
    >
      <input type="email" autoComplete="username" value={me.email} readOnly hidden />
      <Field label="Present password" error={wrong('old')}>
        <TextInput
          type="password"
          autoComplete="current-password"
          maxLength={200}
          value={old}
          onChange={(event) => setOld(event.target.value)}
        />
      </Field>
      <Field
        label={`New password, at least ${LEAST_PASSWORD} characters`}
        error={wrong('password')}
      >
        <TextInput
          type="password"
          autoComplete="new-password"
          maxLength={200}
          value={password}
          onChange={(event) => setPassword(event.target.value)}
        />
      </Field>
      <Tick label="Sign me out everywhere else" on={endOthers} onChange={setEndOthers} />
      {change.isError && !isNamed && (
        <p role="alert" className="rounded-sm bg-glow-wash px-3 py-2 font-semibold">
          {errorText(change.error)}
        </p>
      )}
      <Button
        type="submit"
        className="justify-self-start"
        disabled={change.isPending || old === '' || password.length < LEAST_PASSWORD}
      >
        Change the password
      </Button>
    </form>
  );
}

function Sessions() {
  const me = useMe();
  const now = useNow();
  const changed = useChanged();
  const { data, isPending, isError, error, refetch } = useQuery(
    answerTo('GET /api/account/sessions'),
  );
  const end = useMutation({
    mutationFn: (id: number) => callApi('DELETE /api/account/sessions/:id', { params: { id } }),
    onSettled: () => changed('person'),
  });
  return (
    <section aria-labelledby="signed-in">
      <h3 id="signed-in" className="mb-1 font-text text-[13.5px] font-semibold">
        Where I am signed in
      </h3>
      {isPending && <Outline what="where you are signed in" rows={2} />}
      {isError && <Failure error={error} retry={() => void refetch()} />}
      <ul className="border-t border-edge">
        {data?.sessions.map(({ id, browser, seenAt, signedInAt, isThis }) => (
          <li
            key={id}
            className="flex min-h-11 items-center justify-between gap-3 border-b border-edge py-1"
          >
            <span>
              <b>{browser || 'A browser'}</b>
              <span className="block text-xs text-ink-2">
                {isThis ? 'this one' : `last used ${formatNear(seenAt, now, me)}`}, signed in{' '}
                {formatNear(signedInAt, now, me)}
              </span>
            </span>
            {!isThis && (
              <Button
                look="quiet"
                disabled={end.isPending}
                aria-label={`Sign out ${browser || 'a browser'}`}
                onClick={() => end.mutate(id)}
              >
                Sign out
              </Button>
            )}
          </li>
        ))}
      </ul>
      {end.isError && (
        <p role="alert" className="mt-2 font-semibold text-alpenglow">
          {errorText(end.error)}
        </p>
      )}
    </section>
  );
}
