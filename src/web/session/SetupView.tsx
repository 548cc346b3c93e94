import { zodResolver } from '@hookform/resolvers/zod';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { setupRequest, type SetupRequest } from '../../contract/setup.ts';
import { LEAST_PASSWORD } from '../../contract/limits.ts';
import { isZone } from '../../core/time/zones.ts';
import { zoneCity } from '../../core/time/format.ts';
import { callApi, errorText } from '../client/index.ts';
import { Button, Field, TextInput } from '../design/controls.tsx';
import { ZoneChoice } from '../time/index.ts';

const OWN_ZONE = Intl.DateTimeFormat().resolvedOptions().timeZone;

/** The first administrator and the organization, by the link that the server printed. */
export function SetupView() {
  const [refusal, setRefusal] = useState<string | null>(null);
  const form = useForm<SetupRequest>({
    resolver: zodResolver(setupRequest),
    defaultValues: {
      token: window.location.hash.slice(1),
      organization: '',
      city: isZone(OWN_ZONE) && OWN_ZONE !== 'UTC' ? zoneCity(OWN_ZONE) : '',
      zone: isZone(OWN_ZONE) ? OWN_ZONE : 'UTC',
      name: '',
      email: '',
      password: '',
    },
  });
  const { errors, isSubmitting } = form.formState;
  const begin = async (request: SetupRequest) => {
    setRefusal(null);
    try {
      await callApi('POST /api/setup', { body: request });
      // Behind the link there is nothing more, and it is not kept in what can be gone back to.
      window.location.replace('/administration/start');
    } catch (error) {
      setRefusal(errorText(error));
    }
  };
  return (
    <main className="mx-auto w-full max-w-lg px-5 py-10">
      <h1 className="mb-1 text-3xl">Welcome to Marmot</h1>
      <p className="mb-6 text-ink-2">
        Create the organization that uses it, and yourself as its first administrator.
      </p>
      <form
        noValidate
        onSubmit={(event) => void form.handleSubmit(begin)(event)}
        className="grid gap-4"
      >
        <Field label="Organization" error={errors.organization?.message}>
          <TextInput autoFocus autoComplete="organization" {...form.register('organization')} />
        </Field>
        <div className="grid gap-4 sm:grid-cols-2">
          <Field label="City of its first site" error={errors.city?.message}>
            <TextInput {...form.register('city')} />
          </Field>
          <Field label="Time zone" error={errors.zone?.message}>
            <ZoneChoice
              value={form.watch('zone')}
              onChange={(zone) => form.setValue('zone', zone, { shouldValidate: true })}
            />
          </Field>
        </div>
        <Field label="Your name" error={errors.name?.message}>
          <TextInput autoComplete="name" {...form.register('name')} />
        </Field>
        <Field label="Mail address" error={errors.email?.message}>
          <TextInput type="email" autoComplete="username" {...form.register('email')} />
        </Field>
        <Field
          label={`Password, at least ${LEAST_PASSWORD} characters`}
          error={errors.password?.message}
        >
          <TextInput type="password" autoComplete="new-password" {...form.register('password')} />
        </Field>
        {(refusal ?? errors.token?.message) && (
          <p role="alert" className="rounded-sm bg-glow-wash px-3 py-2 font-semibold">
            {refusal ?? 'Open the whole link that Marmot printed when it started.'}
          </p>
        )}
        <Button look="act" type="submit" disabled={isSubmitting}>
          Create and sign in
        </Button>
      </form>
    </main>
  );
}
