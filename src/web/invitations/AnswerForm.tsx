import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { Reply } from '../../contract/eventDetail.ts';
import { errorText, useKeptText } from '../client/index.ts';
import { Button, Field, TextArea } from '../design/controls.tsx';
import { Tick } from '../design/ticks.tsx';
import { ANSWERS, REPLY_WORDS } from './replyWords.tsx';

type Answer = Exclude<Reply, 'needs-action'>;

/** The three answers with an optional note; the one given before is marked. */
export function AnswerForm({
  present,
  note: presentNote = '',
  toWhom,
  about,
  send,
  mayBeQuiet = false,
  picked = null,
}: {
  present: Reply;
  note?: string;
  toWhom: string;
  /** What makes it one of a kind: a note that is typed is kept under it. */
  about: string;
  send: (reply: Answer, note: string, tell: boolean) => Promise<unknown>;
  /** Whether it can be answered without the organizer hearing of it. */
  mayBeQuiet?: boolean;
  /** The answer that was picked in the letter, and waits to be confirmed. */
  picked?: string | null;
}) {
  const [note, setNote, sent] = useKeptText(`answer ${about}`, presentNote);
  const [tell, setTell] = useState(true);
  const wanted = ANSWERS.find(([reply]) => reply === picked && reply !== present);
  const answer = useMutation({
    mutationFn: (reply: Answer) => send(reply, note, tell),
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
      {mayBeQuiet && <Tick label={`Tell ${toWhom} of it`} on={tell} onChange={setTell} />}
      <div className="flex flex-wrap gap-2">
        {ANSWERS.map(([reply, label]) => (
          <Button
            key={reply}
            look={(wanted ? reply === wanted[0] : reply === 'accepted') ? 'act' : 'plain'}
            autoFocus={reply === wanted?.[0]}
            aria-pressed={present === reply}
            disabled={answer.isPending}
            onClick={() => answer.mutate(reply)}
          >
            {label}
          </Button>
        ))}
      </div>
      <p role="status" className="text-ink-2">
        {wanted
          ? `You picked “${wanted[1]}” in the letter; press it to answer.`
          : present === 'needs-action'
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
