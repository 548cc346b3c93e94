import { useState } from 'react';
import type { EventDetail } from '../../contract/eventDetail.ts';
import { errorText } from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { AskDialog, type Question } from './AskDialog.tsx';
import { useEventActions } from './useEventActions.ts';

/** Cancels an event after asking what it touches. */
export function CancelButton({ event, onDone }: { event: EventDetail; onDone: () => void }) {
  const actions = useEventActions();
  const [question, setQuestion] = useState<Question | null>(null);
  // Nobody has heard of a draft.
  const others = event.draft ? 0 : event.attendees.filter((one) => one.role !== 'organizer').length;
  const cancel: Question['act'] = ({ scope, tell, message }) => {
    const occurrence = event.series?.recurrenceId;
    void actions
      .cancel(
        event.id,
        {
          version: event.version,
          ...(event.series && { scope, ...(occurrence && { occurrence }) }),
          tell,
          message,
        },
        event.title,
      )
      .then(onDone, (error: unknown) => tellUser(errorText(error)));
  };
  const ask = () => {
    if (others === 0 && !event.series) return cancel({ scope: 'all', tell: 'nobody', message: '' });
    setQuestion({
      title: `Cancel “${event.title}”`,
      seriesStart: event.series?.recurrenceId ? event.start : null,
      others,
      verb: 'Cancel it',
      act: cancel,
    });
  };
  return (
    <>
      <Button look="danger" onClick={ask}>
        {event.draft ? 'Discard it' : 'Cancel it'}
      </Button>
      {question && <AskDialog question={question} onClose={() => setQuestion(null)} />}
    </>
  );
}
