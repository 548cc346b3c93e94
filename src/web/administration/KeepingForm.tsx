import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { FEWEST_DAYS, type Keeping, type KeptKind } from '../../contract/keeping.ts';
import {
  answerTo,
  ApiProblem,
  callApi,
  errorText,
  Failure,
  offerUndo,
  useChanged,
} from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { Select } from '../design/Select.tsx';
import { Outline } from '../design/states.tsx';

const KINDS: [kind: KeptKind, name: string, remark: string][] = [
  ['past', 'Meetings and bookings that are past', 'They go with their answers, notes and files.'],
  ['comments', 'What was said of a meeting', ''],
  ['letters', 'Letters that left or came', 'A failed one can be tried again as long.'],
  ['news', 'News', ''],
  ['log', 'The log of who did what', 'Taking back works for 30 days in any case.'],
];

const LENGTHS: [days: number, words: string][] = [
  [30, 'a month'],
  [60, 'two months'],
  [90, 'three months'],
  [180, 'half a year'],
  [365, 'a year'],
  [400, '13 months'],
  [730, 'two years'],
  [1096, 'three years'],
  [1826, 'five years'],
  [3653, 'ten years'],
];
const FOR_EVER = 'for ever';

/** How long what is kept, by kind; what is older goes within the hour after. */
export function KeepingForm() {
  const query = useQuery(answerTo('GET /api/administration/keeping'));
  return (
    <section aria-labelledby="keeping" className="border-t border-edge pt-4">
      <h2 id="keeping" className="mb-1 text-lg">
        How long what is kept
      </h2>
      {query.isPending && <Outline what="how long what is kept" rows={5} />}
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      {query.data && <Kinds key={JSON.stringify(query.data)} set={query.data} />}
    </section>
  );
}

function Kinds({ set }: { set: Keeping }) {
  const changed = useChanged();
  const [draft, setDraft] = useState(set);
  const put = (body: Keeping) =>
    callApi('PUT /api/administration/keeping', { body }).then(() => changed('directory'));
  const save = useMutation({
    mutationFn: put,
    onSuccess: () => offerUndo('Set. What is older goes within the hour.', () => put(set)),
  });
  const isChanged = JSON.stringify(draft) !== JSON.stringify(set);
  const isShorter = KINDS.some(
    ([kind]) => draft[kind] !== null && (set[kind] === null || draft[kind] < set[kind]),
  );
  return (
    <form
      noValidate
      className="grid max-w-2xl gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (isChanged) save.mutate(draft);
      }}
    >
      {KINDS.map(([kind, name, remark]) => (
        <div key={kind} className="flex flex-wrap items-baseline justify-between gap-x-4">
          <span>
            <b className="font-semibold">{name}</b> <span className="text-ink-2">{remark}</span>
          </span>
          <Select<number | null>
            look="word"
            question={`How long ${name.toLowerCase()} are kept`}
            value={draft[kind]}
            options={choicesFor(kind, set[kind])}
            onChange={(days) => setDraft({ ...draft, [kind]: days })}
          />
          {save.error instanceof ApiProblem && save.error.field(kind) && (
            <p role="alert" className="w-full font-semibold text-glow">
              {save.error.field(kind)}
            </p>
          )}
        </div>
      ))}
      {isChanged && isShorter && (
        <p role="status" className="rounded-sm bg-glow-wash px-3 py-2">
          What is older is forgotten within the hour, for good. Setting it back until then keeps it.
        </p>
      )}
      {save.isError && (
        <p role="alert" className="rounded-sm bg-glow-wash px-3 py-2 font-semibold">
          {errorText(save.error)}
        </p>
      )}
      <Button look="act" type="submit" className="w-fit" disabled={!isChanged || save.isPending}>
        Keep so
      </Button>
    </form>
  );
}

/** The lengths that a kind may have, and what it has. */
function choicesFor(kind: KeptKind, set: number | null): { value: number | null; words: string }[] {
  const days = LENGTHS.filter(([count]) => count >= FEWEST_DAYS[kind]);
  const own = set === null || days.some(([count]) => count === set) ? [] : [set];
  return [
    ...days.map(([value, words]) => ({ value: value as number | null, words })),
    ...own.map((value) => ({ value: value as number | null, words: `${value} days` })),
    ...(kind === 'past' || kind === 'comments' ? [{ value: null, words: FOR_EVER }] : []),
  ];
}
