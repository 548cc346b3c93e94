import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Provider } from '../../contract/providers.ts';
import { counted } from '../../core/counted.ts';
import { formatNear } from '../../core/time/format.ts';
import {
  answerTo,
  callApi,
  errorText,
  Failure,
  useChanged,
  useMe,
  useNow,
  useShown,
} from '../client/index.ts';
import { Button, Field, TextInput } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { Panel } from '../design/Panel.tsx';
import { Empty, Outline } from '../design/states.tsx';
import { SureDialog } from '../design/SureDialog.tsx';
import { AdminFrame } from './AdminFrame.tsx';
import { ProviderForm } from './ProviderForm.tsx';

/** How do people come in here, and who keeps their accounts? */
export function SigningInView() {
  return (
    <AdminFrame>
      <div className="grid max-w-3xl gap-8 px-4 py-4 md:px-6">
        <Providers />
        <Directory />
      </div>
    </AdminFrame>
  );
}

function Providers() {
  useShown(['directory:all']);
  const { data, isPending, isError, error, refetch } = useQuery(
    answerTo('GET /api/administration/providers'),
  );
  const [openId, setOpenId] = useState<number | 'new' | null>(null);
  const opened = data?.providers.find(({ id }) => id === openId) ?? null;
  return (
    <section aria-labelledby="providers">
      <div className="mb-2 flex flex-wrap items-baseline justify-between gap-3">
        <h2 id="providers" className="text-[17px]">
          By the organization’s own sign-in
        </h2>
        <Button onClick={() => setOpenId('new')}>Add one</Button>
      </div>
      <p className="mb-3 text-ink-2">
        Who vouches for people by OpenID Connect. Everybody’s own password stays a way in, yours,
        too.
      </p>
      {isPending && <Outline what="ways to sign in" rows={2} />}
      {isError && <Failure error={error} retry={() => void refetch()} />}
      {data?.providers.length === 0 && (
        <Empty title="People sign in by password or passkey">
          Add the identity provider of your organization, and they sign in as everywhere else.
        </Empty>
      )}
      <ul aria-label="Identity providers" className="border-t border-edge empty:border-0">
        {data?.providers.map((one) => (
          <li
            key={one.id}
            className="grid gap-x-4 border-b border-edge py-2 sm:grid-cols-[minmax(0,1fr)_minmax(0,1.4fr)_auto]"
          >
            <button
              type="button"
              className="reach text-left font-semibold hover:underline"
              aria-haspopup="dialog"
              onClick={() => setOpenId(one.id)}
            >
              {one.name}
            </button>
            <span className="truncate text-ink-2">{one.issuer}</span>
            <span className="text-ink-2">{inWords(one)}</span>
          </li>
        ))}
      </ul>
      <Panel
        open={openId !== null && data !== undefined}
        onClose={() => setOpenId(null)}
        title={openId === 'new' ? 'Another way to sign in' : (opened?.name ?? 'A way to sign in')}
      >
        {(openId === 'new' || opened) && data && (
          <ProviderForm
            key={openId}
            provider={opened}
            returnAddress={data.returnAddress}
            onSaved={() => setOpenId(null)}
          />
        )}
      </Panel>
    </section>
  );
}

const inWords = ({ people, letsIn }: Provider): string =>
  [
    counted(people, 'person', 'people'),
    letsIn === null ? 'strangers stay out' : `strangers become ${letsIn}`,
  ].join(', ');

/** The token by which the organization's directory keeps accounts here. */
function Directory() {
  const me = useMe();
  const now = useNow();
  const changed = useChanged();
  useShown(['directory:all']);
  const { data, isPending, isError, error, refetch } = useQuery(
    answerTo('GET /api/administration/directory'),
  );
  const [token, setToken] = useState<string | null>(null);
  const [sure, setSure] = useState<'make' | 'end' | null>(null);
  const make = useMutation({
    mutationFn: () => callApi('POST /api/administration/directory'),
    onSuccess: (answer) => setToken(answer.token),
    onSettled: () => changed('directory'),
  });
  const end = useMutation({
    mutationFn: () => callApi('DELETE /api/administration/directory'),
    onSuccess: () => {
      setToken(null);
      tellUser('The directory keeps accounts here no more.');
    },
    onSettled: () => changed('directory'),
  });
  const failed = make.error ?? end.error;
  return (
    <section aria-labelledby="directory">
      <h2 id="directory" className="mb-2 text-[17px]">
        Accounts kept by the directory
      </h2>
      <p className="mb-3 text-ink-2">
        The directory of your organization adds, changes and ends accounts and teams here by SCIM
        2.0. Roles and places stay yours to settle.
      </p>
      {isPending && <Outline what="the directory" rows={2} />}
      {isError && <Failure error={error} retry={() => void refetch()} />}
      {data && (
        <div className="grid gap-3">
          <Field label="Address for the directory">
            <TextInput readOnly value={data.address} onFocus={(event) => event.target.select()} />
          </Field>
          <p>
            {data.madeAt === null
              ? 'There is no token: no directory comes in.'
              : `A token was made ${formatNear(data.madeAt, now, me)}, ${data.usedAt === null ? 'and never used' : `last used ${formatNear(data.usedAt, now, me)}`}.`}
          </p>
          {token && (
            <Field
              label="The token"
              hint="Copy it now: it is shown this once. Whoever has it can change every account."
            >
              <TextInput readOnly value={token} onFocus={(event) => event.target.select()} />
            </Field>
          )}
          {failed && (
            <p role="alert" className="rounded-sm bg-glow-wash px-3 py-2 font-semibold">
              {errorText(failed)}
            </p>
          )}
          <div className="flex flex-wrap gap-2">
            <Button
              disabled={make.isPending}
              onClick={() => (data.madeAt === null ? make.mutate() : setSure('make'))}
            >
              {data.madeAt === null ? 'Make a token' : 'Make another token'}
            </Button>
            {data.madeAt !== null && (
              <Button look="danger" disabled={end.isPending} onClick={() => setSure('end')}>
                End it
              </Button>
            )}
          </div>
        </div>
      )}
      {sure === 'make' && (
        <SureDialog
          title="Another token"
          words="The present one is good no more from that moment on: the directory has to be given the new one."
          verb="Make another token"
          onSure={() => make.mutate()}
          onClose={() => setSure(null)}
        />
      )}
      {sure === 'end' && (
        <SureDialog
          title="No more directory"
          words="It adds, changes and ends no account here any more. Those that there are stay."
          verb="End its token"
          onSure={() => end.mutate()}
          onClose={() => setSure(null)}
        />
      )}
    </section>
  );
}
