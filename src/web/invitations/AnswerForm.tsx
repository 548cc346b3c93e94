import { useMutation } from '@tanstack/react-query';
import type { Reply } from '../../contract/events.ts';
import { errorText, useKeptText } from '../app/index.ts';
import { Button, Field, TextArea } from '../design/controls.tsx';
import { ANSWERS, REPLY_WORDS } from './replyWords.tsx';

type Answer = Exclude<Reply, 'needs-action'>;

/** The three answers with an optional note; the one given before is marked. */
export function AnswerForm({
  present,
  note: presentNote = '',
  toWhom,
  about,
  send,
}: {
  present: Reply;
  note?: string;
  toWhom: string;
  /** What makes it one of a kind: a note that is typed is kept under it. */
  about: string;
  send: (reply: Answer, note: string) => Promise<unknown>;
}) {
  const [note, setNote, sent] = useKeptText(`answer ${about}`, presentNote);
  const answer = useMutation({
    mutationFn: (reply: Answer) => send(reply, note),
    onSuccess: sent,
  });
  return (
    <div className="grid gap-3">
      <Field label={`A note to ${toWhom}, if you like`}>
        <TextArea
          rows={2}
          maxLength={2000}
          value={note}
          onChange={(event) => setNote(event.target.value)}
        />
      </Field>
      <div className="flex flex-wrap gap-2">
        {ANSWERS.map(([reply, label]) => (
          <Button
            key={reply}
            look={reply === 'accepted' ? 'act' : 'plain'}
            aria-pressed={present === reply}
            disabled={answer.isPending}
            onClick={() => answer.mutate(reply)}
          >
            {label}
          </Button>
        ))}
      </div>
      <p role="status" className="text-ink-2">
        {present === 'needs-action'
          ? 'You have not answered yet.'
          : `Your answer: ${REPLY_WORDS[present]}.`}
      </p>
      {answer.isError && (
        <p role="alert" className="font-semibold text-alpenglow">
          {errorText(answer.error)}
        </p>
      )}
    </div>
  );
}
