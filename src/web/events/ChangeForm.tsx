import type { EventDetail } from '../../contract/events.ts';
import { Field, TextArea } from '../design/controls.tsx';
import { Tick } from '../design/ticks.tsx';
import { EventForm } from './EventForm.tsx';
import { PartChoice } from './PartChoice.tsx';
import { useEventDraft } from './useEventDraft.ts';

/** The form of an event that is there, in short or in full, with whom a change is told. */
export function ChangeForm({
  event,
  full = false,
  onDone,
}: {
  event: EventDetail;
  full?: boolean;
  onDone: (event: EventDetail) => void;
}) {
  const { form, scope, setScope, tell, setTell, message, setMessage, others, change } =
    useEventDraft(event, onDone);
  const whom = others === 1 ? '1 person' : `${others} people`;
  return (
    <EventForm
      form={form}
      full={full}
      repeats={event.series === null || scope !== 'one'}
      {...(event.series && { cancelled: event.series.cancelled })}
      action={
        others === 0 ? 'Save' : tell ? `Save and tell ${whom}` : 'Save without telling anyone'
      }
      busy={change.isPending || change.isSuccess}
      error={change.error}
      save={(result) => change.mutate(result)}
      before={event.series && <PartChoice start={event.start} value={scope} onChange={setScope} />}
    >
      {others > 0 && (
        <div className="grid gap-2">
          <Tick label={`Tell ${whom} about the change`} on={tell} onChange={setTell} />
          {tell && (
            <Field label="Message to them">
              <TextArea
                rows={2}
                maxLength={2000}
                value={message}
                onChange={(e) => setMessage(e.target.value)}
              />
            </Field>
          )}
        </div>
      )}
    </EventForm>
  );
}
