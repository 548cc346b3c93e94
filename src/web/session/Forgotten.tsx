import { useState } from 'react';
import { callApi, errorText } from '../client/index.ts';
import { Button, Field, TextInput } from '../design/controls.tsx';

/** For whoever forgot their password, or never had one: a letter with a link. */
export function Forgotten({ given, onBack }: { given: string; onBack: () => void }) {
  const [email, setEmail] = useState(given);
  const [isSent, setIsSent] = useState(false);
  const [isBusy, setIsBusy] = useState(false);
  const [problem, setProblem] = useState<unknown>(null);
  const ask = async () => {
    setIsBusy(true);
    setProblem(null);
    try {
      await callApi('POST /api/account/forgotten', { body: { email } });
      setIsSent(true);
    } catch (error) {
      setProblem(error);
    } finally {
      setIsBusy(false);
    }
  };
  if (isSent)
    return (
      <div className="grid justify-items-start gap-4">
        <p role="status">
          If somebody signs in here as <b>{email}</b>, a letter is on its way with a link to another
          password. It works once, for an hour.
        </p>
        <Button onClick={onBack}>Back to signing in</Button>
      </div>
    );
  return (
    <form
      noValidate
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        void ask();
      }}
    >
      <Field
        label="Mail address"
        hint="A link to another password comes there."
        error={problem === null ? undefined : errorText(problem)}
      >
        <TextInput
          autoFocus
          type="email"
          autoComplete="username"
          maxLength={254}
          value={email}
          onChange={(event) => setEmail(event.target.value)}
        />
      </Field>
      <div className="flex flex-wrap gap-2">
        <Button look="act" type="submit" disabled={isBusy || email.trim() === ''}>
          Send me a link
        </Button>
        <Button look="quiet" onClick={onBack}>
          Back
        </Button>
      </div>
    </form>
  );
}
