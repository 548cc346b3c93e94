import { useQueryClient } from '@tanstack/react-query';
import type { LineUpRequest, RememberedLineUp } from '../../contract/lineUps.ts';
import { answerTo, callApi, errorText, offerUndo, useKept } from '../client/index.ts';
import { Button, TextInput } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { recalled, type LineUpEntry, useLineUps } from '../lineUp/index.ts';

/** Remembers the line-up under a name, and forgets those that are not needed any more. */
export function RememberLineUp({
  lineUp,
  onAdd,
}: {
  /** Without me, who is in every line-up of mine. */
  lineUp: readonly LineUpEntry[];
  onAdd: (fresh: LineUpEntry[]) => void;
}) {
  /** Null where none is being typed. */
  const [name, setName] = useKept<string | null>('name of a line-up', null);
  const client = useQueryClient();
  const { data } = useLineUps();
  const remembered = data?.lineUps ?? [];
  const after = (
    answer: { lineUps: RememberedLineUp[] },
    text: string,
    undo?: () => Promise<void>,
  ) => {
    client.setQueryData(answerTo('GET /api/line-ups').queryKey, {
      lineUps: answer.lineUps,
      met: data?.met ?? [],
    });
    if (undo) offerUndo(text, undo);
    else tellUser(text);
  };
  const keep = (request: LineUpRequest) => callApi('PUT /api/line-ups', { body: request });
  const remember = async () => {
    const asked: LineUpRequest = {
      name: name!.trim(),
      members: lineUp.map(({ id, email, role }) => (email ? { email, role } : { id, role })),
    };
    try {
      after(await keep(asked), `“${asked.name}” is remembered.`);
      setName(null);
    } catch (error) {
      tellUser(errorText(error));
    }
  };
  const forget = async ({ id, ...one }: RememberedLineUp) => {
    try {
      const answer = await callApi('DELETE /api/line-ups/:id', { params: { id } });
      after(answer, `“${one.name}” is forgotten.`, () =>
        keep(one).then(
          (back) => after(back, `“${one.name}” is remembered again.`),
          (error) => void tellUser(errorText(error)),
        ),
      );
    } catch (error) {
      tellUser(errorText(error));
    }
  };
  if (name === null) {
    return (
      <details className="mt-1.5 text-xs">
        <summary className="min-h-6 cursor-pointer py-0.5 text-ink-2 max-sm:py-3">
          Remembered line-ups{remembered.length > 0 && `, ${remembered.length}`}
        </summary>
        <ul className="mt-1">
          {remembered.map((one) => (
            <li key={one.id} className="flex items-baseline gap-2 py-0.5">
              <button
                type="button"
                className="min-w-0 flex-1 truncate text-left font-semibold text-gentian hover:underline"
                onClick={() => onAdd(one.members.map(recalled))}
              >
                {one.name}
              </button>
              <span className="text-ink-2">{one.members.length}</span>
              <button
                type="button"
                className="text-gentian hover:underline"
                aria-label={`Forget ${one.name}`}
                onClick={() => void forget(one)}
              >
                forget
              </button>
            </li>
          ))}
        </ul>
        <Button
          look="quiet"
          className="-ml-2.5 text-xs"
          disabled={lineUp.length === 0}
          onClick={() => setName('')}
        >
          Remember this one
        </Button>
      </details>
    );
  }
  return (
    <form
      className="mt-1.5 flex gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim()) void remember();
      }}
    >
      <TextInput
        aria-label="A name for this line-up"
        placeholder="A name for it"
        maxLength={60}
        autoFocus
        value={name}
        onChange={(event) => setName(event.target.value)}
        onKeyDown={(event) => event.key === 'Escape' && setName(null)}
        className="min-w-0 flex-1"
      />
      <Button type="submit" disabled={!name.trim()}>
        Remember
      </Button>
    </form>
  );
}
