import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Passkey } from '../../contract/passkeys.ts';
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
import { QuestionDialog } from '../design/QuestionDialog.tsx';
import { Outline } from '../design/states.tsx';

/** Keys that my devices keep, by which I sign in. */
export function Passkeys() {
  const changed = useChanged();
  const refresh = () => changed('person');
  const query = useQuery(answerTo('GET /api/passkeys'));
  const [name, setName] = useState('');
  const [isAlone, setAlone] = useState(false);
  const add = useMutation({
    mutationFn: async () => {
      const [{ startRegistration }, options] = await Promise.all([
        import('@simplewebauthn/browser'),
        callApi('POST /api/passkeys/options'),
      ]);
      const response = await startRegistration({ optionsJSON: options as never });
      await callApi('POST /api/passkeys', { body: { name, response: response as never } });
    },
    onSuccess: () => {
      tellUser(`“${name}” is kept. You can sign in with it.`);
      setName('');
    },
    onSettled: refresh,
  });
  return (
    <section aria-labelledby="passkeys" className="grid content-start gap-3">
      <div>
        <h3 id="passkeys" className="mb-1 font-text text-[13.5px] font-semibold">
          Passkeys
        </h3>
        <p className="text-ink-2">
          A key that a phone, a computer or a security key keeps for you: nothing to remember, and
          nothing that somebody could be told.
        </p>
      </div>
      {query.isPending && <Outline what="passkeys" rows={1} />}
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      {query.data && query.data.passkeys.length > 0 && (
        <ul className="border-t border-edge" aria-label="Passkeys">
          {query.data.passkeys.map((one) => (
            <One key={one.id} passkey={one} onChanged={refresh} />
          ))}
        </ul>
      )}
      <form
        noValidate
        aria-label="Another passkey"
        className="flex flex-wrap items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim() !== '') add.mutate();
        }}
      >
        <div className="min-w-44 flex-1">
          <Field label="What the device is called">
            <TextInput
              maxLength={60}
              placeholder="Work laptop"
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
          </Field>
        </div>
        <Button type="submit" disabled={add.isPending || name.trim() === ''}>
          Add a passkey
        </Button>
      </form>
      {add.isError && (
        <p role="alert" className="font-semibold text-alpenglow">
          {wordsFor(add.error)}
        </p>
      )}
      {query.data?.hasPassword && query.data.passkeys.length > 0 && (
        <Button look="quiet" className="-ml-3 justify-self-start" onClick={() => setAlone(true)}>
          Sign in by passkeys alone
        </Button>
      )}
      {query.data && !query.data.hasPassword && (
        <p className="text-ink-2">
          You have no password. “I forgot my password”, where you sign in, gives you another one.
        </p>
      )}
      {isAlone && <Alone onClose={() => setAlone(false)} onDone={refresh} />}
    </section>
  );
}

function wordsFor(error: unknown): string {
  const { name } = error as Error;
  if (name === 'InvalidStateError') return 'This device has a passkey of yours already.';
  if (name === 'NotAllowedError' || name === 'AbortError') return 'No passkey was made.';
  if (name === 'NotSupportedError' || name === 'SecurityError')
    return 'This browser cannot make passkeys here.';
  return errorText(error);
}

function One({ passkey, onChanged }: { passkey: Passkey; onChanged: () => Promise<unknown> }) {
  const me = useMe();
  const now = useNow();
  const remove = useMutation({
    mutationFn: () => callApi('DELETE /api/passkeys/:id', { params: { id: passkey.id } }),
    onSuccess: () => tellUser(`“${passkey.name}” signs you in no more.`),
    onSettled: onChanged,
  });
  const { name, createdAt, usedAt } = passkey;
  return (
    <li className="border-b border-edge py-1">
      <div className="flex min-h-11 items-center justify-between gap-3">
        <span>
          <b>{name}</b>
          <span className="block text-xs text-ink-2">
            {usedAt === null ? 'never used' : `last used ${formatNear(usedAt, now, me)}`}, added{' '}
            {formatNear(createdAt, now, me)}
          </span>
        </span>
        <Button
          look="quiet"
          disabled={remove.isPending}
          aria-label={`Remove ${name}`}
          onClick={() => remove.mutate()}
        >
          Remove
        </Button>
      </div>
      {remove.isError && (
        <p role="alert" className="font-semibold text-alpenglow">
          {errorText(remove.error)}
        </p>
      )}
    </li>
  );
}

/** Asks for the present password once more before it is no longer one. */
function Alone({ onClose, onDone }: { onClose: () => void; onDone: () => Promise<unknown> }) {
  const [old, setOld] = useState('');
  const drop = useMutation({
    mutationFn: () => callApi('POST /api/passkeys/alone', { body: { old } }),
    onSuccess: () => {
      tellUser('You sign in by passkeys alone.');
      onClose();
    },
    onSettled: onDone,
  });
  const wrong = drop.error instanceof ApiProblem ? drop.error.field('old') : undefined;
  return (
    <QuestionDialog title="By passkeys alone" onClose={onClose}>
      <p>Your password is no longer one. If you lose your devices, a letter gives you another.</p>
      <form
        noValidate
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          drop.mutate();
        }}
      >
        <Field label="Present password" error={wrong && `It ${wrong}.`}>
          <TextInput
            type="password"
            autoFocus
            autoComplete="current-password"
            maxLength={200}
            value={old}
            onChange={(event) => setOld(event.target.value)}
          />
        </Field>
        {drop.isError && !wrong && (
          <p role="alert" className="font-semibold text-alpenglow">
            {errorText(drop.error)}
          </p>
        )}
        <div className="flex flex-wrap gap-2">
          <Button look="act" type="submit" disabled={drop.isPending || old === ''}>
            Have no password
          </Button>
          <Button look="quiet" onClick={onClose}>
            Leave it as it is
          </Button>
        </div>
      </form>
    </QuestionDialog>
  );
}
