import type { Reply } from '../../contract/eventDetail.ts';
import { errorText } from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { ANSWERS } from './replyWords.tsx';
import { useAnswer, type InvitationRef } from './useAnswer.ts';

/** The three answers, one click each, where an invitation is met. */
export function AnswerButtons({
  asked,
  about,
  present = 'needs-action',
}: {
  asked: InvitationRef;
  /** What is answered, for whoever hears the button without seeing its row. */
  about: string;
  present?: Reply;
}) {
  const answer = useAnswer(asked, { reply: present });
  // What was pressed last is shown as chosen, until what came of it is.
  const shown = (answer.isPending && answer.variables?.reply) || present;
  return (
    <div>
      <div role="group" aria-label={`Answer ${about}`} className="flex flex-wrap gap-1.5">
        {ANSWERS.map(([reply, label]) => (
          <Button
            key={reply}
            className="min-h-11 flex-1 sm:min-h-0 sm:flex-none"
            aria-pressed={shown === reply}
            onClick={() => answer.mutate({ reply })}
          >
            {label}
          </Button>
        ))}
      </div>
      {answer.isError && (
        <p role="alert" className="mt-1 font-semibold text-alpenglow">
          {errorText(answer.error)}
        </p>
      )}
    </div>
  );
}
