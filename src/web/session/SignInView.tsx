import { zodResolver } from '@hookform/resolvers/zod';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { signInRequest, type SessionState, type SignInRequest } from '../../contract/session.ts';
import { callApi, DemonstrationNote, errorText, useChanged } from '../client/index.ts';
import { Button, Field, TextInput } from '../design/controls.tsx';
import { Forgotten } from './Forgotten.tsx';
import { problemInAddress, WaysIn } from './WaysIn.tsx';

/** Address and password; the demonstration also lists its people. */
export function SignInView({ state }: { state: SessionState }) {
  const changed = useChanged();
  const [refusal, setRefusal] = useState<string | null>(problemInAddress);
  const [isForgotten, setIsForgotten] = useState(false);
  const form = useForm<SignInRequest>({
    resolver: zodResolver(signInRequest),
    defaultValues: { email: '', password: '' },
  });
  const { errors, isSubmitting } = form.formState;

  const signIn = async (request: SignInRequest) => {
    setRefusal(null);
    try {
      await callApi('POST /api/session', { body: request });
      await changed('person');
    } catch (error) {
      setRefusal(errorText(error));
    }
  };
  const sample = state.demonstration;

  return (
    <>
      <DemonstrationNote />
      <main
        className={`mx-auto grid min-h-dvh w-full content-center gap-10 px-5 py-8 ${sample ? 'max-w-4xl md:grid-cols-2' : 'max-w-md'}`}
      >
        <section>
          <h1 className="mb-1 text-3xl">Marmot</h1>
          <p className="mb-6 text-ink-2">
            {state.needsSetup ? 'People' : `${state.organization}: people`} and places, together.
          </p>
          {state.needsSetup && (
            <p className="mb-6 rounded-sm bg-glow-wash px-3 py-2">
              Nobody can sign in here yet. Whoever started Marmot finds a link for the first
              administrator among what it printed.
            </p>
          )}
          {isForgotten ? (
            <Forgotten given={form.getValues('email')} onBack={() => setIsForgotten(false)} />
          ) : (
            <form
              noValidate
              onSubmit={(event) => void form.handleSubmit(signIn)(event)}
              className="grid gap-4"
            >
              <Field label="Mail address" error={errors.email?.message}>
                <TextInput
                  type="email"
                  autoComplete="username"
                  aria-invalid={!!errors.email}
                  {...form.register('email')}
                />
              </Field>
              <Field label="Password" error={errors.password?.message}>
                <TextInput
                  type="password"
                  autoComplete="current-password"
                  aria-invalid={!!errors.password}
                  {...form.register('password')}
                />
              </Field>
              {refusal && (
                <p role="alert" className="rounded-sm bg-glow-wash px-3 py-2 font-semibold">
                  {refusal}
                </p>
              )}
              <Button look="act" type="submit" disabled={isSubmitting}>
                Sign in
              </Button>
              {!state.needsSetup && (
                <Button
                  look="quiet"
                  className="justify-self-start"
                  onClick={() => setIsForgotten(true)}
                >
                  I forgot my password
                </Button>
              )}
            </form>
          )}
          {!isForgotten && !state.needsSetup && <WaysIn onProblem={setRefusal} />}
        </section>
        {sample && (
          <section aria-labelledby="sample">
            <h2 id="sample" className="mb-1 text-[15px]">
              The demonstration’s people
            </h2>
            <p className="mb-3 text-ink-2">
              Everyone is made up, and so are their calendars. Choose one to sign in.
            </p>
            <ul
              className="max-h-[55vh] overflow-y-auto border-y border-edge"
              tabIndex={0}
              aria-label="People to sign in as"
            >
              {sample.people.map((person) => (
                <li key={person.email} className="border-b border-edge last:border-0">
                  <button
                    type="button"
                    className="flex w-full justify-between gap-4 px-2 py-1.5 text-left hover:bg-gentian-wash"
                    onClick={() => void signIn({ email: person.email, password: sample.password })}
                  >
                    <span className="font-semibold">{person.name}</span>
                    <span className="text-right text-ink-2">
                      {person.jobTitle}, {person.site}
                    </span>
                  </button>
                </li>
              ))}
            </ul>
          </section>
        )}
      </main>
    </>
  );
}
