import { zodResolver } from '@hookform/resolvers/zod';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { signInRequest, type Me, type SignInRequest } from '../../contract/session.ts';
import { callApi, errorText } from '../client/index.ts';
import { Button, Field, TextInput } from '../design/controls.tsx';
import { QuestionDialog } from '../design/QuestionDialog.tsx';

/**
 * Signs somebody in again whose session ended, over the view they were in: what they typed stays, and
 * what they were sending goes on.
 */
export function SignInAgainView({
  me,
  onSignedIn,
  onAnother,
}: {
  me: Me;
  onSignedIn: () => Promise<unknown>;
  onAnother: () => void;
}) {
  const [refusal, setRefusal] = useState<string | null>(null);
  const form = useForm<SignInRequest>({
    resolver: zodResolver(signInRequest),
    defaultValues: { email: me.email, password: '' },
  });
  const { errors, isSubmitting } = form.formState;
  const signIn = async (request: SignInRequest) => {
    setRefusal(null);
    try {
      await callApi('POST /api/session', { body: request });
      await onSignedIn();
    } catch (error) {
      setRefusal(errorText(error));
    }
  };
  return (
    <QuestionDialog title="You are signed out" onClose={() => undefined}>
      <p>
        Your session has ended. Sign in again as <b className="font-semibold">{me.name}</b>, and you
        go on where you are; nothing that you typed is lost.
      </p>
      <form
        noValidate
        onSubmit={(event) => void form.handleSubmit(signIn)(event)}
        className="grid gap-4"
      >
        <input type="hidden" autoComplete="username" {...form.register('email')} />
        <Field label="Password" error={errors.password?.message}>
          <TextInput
            type="password"
            autoFocus
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
        <div className="flex flex-wrap gap-2">
          <Button look="act" type="submit" disabled={isSubmitting}>
            Sign in and go on
          </Button>
          <Button look="quiet" onClick={onAnother}>
            I am somebody else
          </Button>
        </div>
      </form>
    </QuestionDialog>
  );
}
