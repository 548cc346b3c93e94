import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { Delegate, DelegateRequest, DelegatesResponse } from '../../contract/delegates.ts';
import { listNames } from '../../core/planner/words.ts';
import { callApi, answerTo, errorText, Failure, offerUndo, useMe } from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { Select } from '../design/Select.tsx';
import { Empty, Outline } from '../design/states.tsx';
import { FindField } from '../find/index.ts';

const DELEGATES = answerTo('GET /api/delegates');

const HEARS = [
  { value: 'nothing', words: 'hears nothing of mine' },
  { value: 'invitations', words: 'hears of invitations and changes' },
  { value: 'everything', words: 'hears of everything I hear of' },
] as const;

/** Who plans, answers and books in my name, and what of mine they hear of. */
export function Delegates() {
  const me = useMe();
  const client = useQueryClient();
  const query = useQuery(DELEGATES);
  const kept = (now: DelegatesResponse) => client.setQueryData(DELEGATES.queryKey, now);
  const onError = (error: unknown) => tellUser(errorText(error));
  const put = useMutation({
    mutationFn: ({ id, receives }: Pick<Delegate, 'id' | 'receives'>) =>
      callApi('PUT /api/delegates/:id', {
        params: { id },
        body: { receives } satisfies DelegateRequest,
      }),
    onSuccess: kept,
    onError,
  });
  const remove = useMutation({
    mutationFn: ({ id }: Delegate) => callApi('DELETE /api/delegates/:id', { params: { id } }),
    onSuccess: (now, gone) => {
      kept(now);
      offerUndo(`${gone.name} does not act for you any more.`, async () => {
        await put.mutateAsync(gone);
      });
    },
    onError,
  });
  if (query.isPending) return <Outline what="who acts for you" rows={2} />;
  if (query.isError) return <Failure error={query.error} retry={() => void query.refetch()} />;
  const { delegates } = query.data;
  return (
    <div className="grid gap-3">
      <p className="text-ink-2">
        Whoever acts for you sees your calendar as you do, and plans, answers and books in your
        name. It is shown as theirs, for you, in letters and in the log.
      </p>
      {delegates.length === 0 && <Empty title="Nobody acts for you">Name somebody below.</Empty>}
      <ul className="grid gap-2">
        {delegates.map((one) => (
          <li key={one.id} className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
            <b className="font-semibold">{one.name}</b>
            <Select
              look="word"
              question={`What ${one.name} hears of`}
              value={one.receives}
              onChange={(receives) => put.mutate({ id: one.id, receives })}
              options={HEARS}
            />
            <Button
              look="quiet"
              aria-label={`${one.name} acts for me no more`}
              disabled={remove.isPending}
              onClick={() => remove.mutate(one)}
            >
              Remove
            </Button>
          </li>
        ))}
      </ul>
      <div className="max-w-72">
        <FindField
          label="Let somebody act for me"
          kinds={['person']}
          onFound={(one) => {
            if (one.id === me.id) tellUser('You act for yourself in any case.');
            else put.mutate({ id: one.id, receives: 'invitations' });
          }}
        />
      </div>
      {query.data.coordinators.length > 0 && (
        <p className="text-ink-2">
          {listNames(
            query.data.coordinators.map((one) => one.name),
            6,
          )}{' '}
          {query.data.coordinators.length === 1 ? 'coordinates' : 'coordinate'} a team of yours and
          may plan, answer, book and record absence for you, without being shown what is private.
          Whoever administers the organization settles it.
        </p>
      )}
      {me.coordinates.length > 0 && (
        <p className="text-ink-2">
          You coordinate the teams of{' '}
          {listNames(
            me.coordinates.map((one) => one.name),
            6,
          )}
          .
        </p>
      )}
      {me.actsFor.length > 0 && (
        <p className="text-ink-2">
          You act for{' '}
          {listNames(
            me.actsFor.map((one) => one.name),
            6,
          )}
          .
        </p>
      )}
    </div>
  );
}
