import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { Provider } from '../../contract/providers.ts';
import { ApiProblem, callApi, errorText, useChanged } from '../client/index.ts';
import { Button, Field, TextInput } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { Select } from '../design/Select.tsx';
import { SureDialog } from '../design/SureDialog.tsx';

const LETS_IN = [
  { value: null, words: 'stays out, until somebody invites them' },
  { value: 'staff', words: 'becomes staff' },
  { value: 'steward', words: 'becomes steward' },
] as const;

/** An identity provider: what it is called, who it is, what it knows us by, and what becomes of strangers. */
export function ProviderForm({
  provider,
  returnAddress,
  onSaved,
}: {
  provider: Provider | null;
  returnAddress: string;
  onSaved: () => void;
}) {
  const changed = useChanged();
  const [draft, setDraft] = useState({
    name: provider?.name ?? '',
    issuer: provider?.issuer ?? '',
    clientId: provider?.clientId ?? '',
    clientSecret: '',
    letsIn: provider?.letsIn ?? null,
  });
  const [isSure, setSure] = useState(false);
  const put = (part: Partial<typeof draft>) => setDraft({ ...draft, ...part });
  const save = useMutation({
    mutationFn: async () => {
      if (!provider) return callApi('POST /api/administration/providers', { body: draft });
      const { clientSecret, ...rest } = draft;
      return callApi('PATCH /api/administration/providers/:id', {
        params: { id: provider.id },
        body: { version: provider.version, ...rest, ...(clientSecret && { clientSecret }) },
      });
    },
    onSuccess: () => {
      tellUser(`${draft.name} is kept.`);
      onSaved();
    },
    onSettled: () => changed('directory'),
  });
  const remove = useMutation({
    mutationFn: () =>
      callApi('DELETE /api/administration/providers/:id', { params: { id: provider!.id } }),
    onSuccess: () => {
      tellUser(`Nobody signs in by ${draft.name} any more.`);
      onSaved();
    },
    onSettled: () => changed('directory'),
  });
  const trial = useMutation({
    mutationFn: () =>
      callApi('POST /api/administration/providers/:id/trial', { params: { id: provider!.id } }),
  });
  const wrong = (field: string) =>
    save.error instanceof ApiProblem ? save.error.field(field) : undefined;
  const failed = save.error ?? remove.error ?? trial.error;
  return (
    <form
      noValidate
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}
    >
      <Field label="Name" error={wrong('name')} hint="It stands on the button.">
        <TextInput
          maxLength={80}
          placeholder="Tern Rock sign-in"
          value={draft.name}
          onChange={(event) => put({ name: event.target.value })}
        />
      </Field>
      <Field label="Issuer" error={wrong('issuer')} hint="Everything else is found from it.">
        <TextInput
          maxLength={300}
          placeholder="https://sign-in.example.org"
          value={draft.issuer}
          onChange={(event) => put({ issuer: event.target.value })}
        />
      </Field>
      <Field label="Client id" error={wrong('clientId')}>
        <TextInput
          maxLength={300}
          value={draft.clientId}
          onChange={(event) => put({ clientId: event.target.value })}
        />
      </Field>
      <Field
        label="Client secret"
        error={wrong('clientSecret')}
        {...(provider && { hint: 'Left empty, it stays as it is.' })}
      >
        <TextInput
          type="password"
          autoComplete="off"
          maxLength={500}
          value={draft.clientSecret}
          onChange={(event) => put({ clientSecret: event.target.value })}
        />
      </Field>
      <Field label="Whoever nobody here knows" error={wrong('letsIn')}>
        <Select<'staff' | 'steward' | null>
          value={draft.letsIn}
          options={LETS_IN}
          onChange={(letsIn) => put({ letsIn })}
        />
      </Field>
      <Field label="Return address" hint="Give it to the provider: it sends people back there.">
        <TextInput readOnly value={returnAddress} onFocus={(event) => event.target.select()} />
      </Field>
      {trial.isSuccess && <p role="status">It answers as an identity provider does.</p>}
      {failed && (
        <p role="alert" className="rounded-sm bg-glow-wash px-3 py-2 font-semibold">
          {errorText(failed)}
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        <Button look="act" type="submit" disabled={save.isPending}>
          Keep
        </Button>
        {provider && (
          <>
            <Button disabled={trial.isPending} onClick={() => trial.mutate()}>
              {trial.isPending ? 'Asking it…' : 'Ask whether it answers'}
            </Button>
            <Button look="danger" disabled={remove.isPending} onClick={() => setSure(true)}>
              Remove
            </Button>
          </>
        )}
      </div>
      {isSure && provider && (
        <SureDialog
          title={`Nobody signs in by ${provider.name}`}
          words="Who it vouched for is forgotten with it. Those without a password or a passkey need a letter to come in again."
          verb="Remove it"
          onSure={() => remove.mutate()}
          onClose={() => setSure(false)}
        />
      )}
    </form>
  );
}
