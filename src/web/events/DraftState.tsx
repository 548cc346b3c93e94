import { useMutation } from '@tanstack/react-query';
import type { EventDetail } from '../../contract/eventDetail.ts';
import { listNames } from '../../core/planner/words.ts';
import { Failure, useKeptText } from '../client/index.ts';
import { Button, Field, TextArea } from '../design/controls.tsx';
import { Switch } from '../design/ticks.tsx';
import { takenIn } from '../places/index.ts';
import { HeldForMe, useWaited } from '../waiting/index.ts';
import { useEventActions } from '../meetings/index.ts';

/** A meeting that is not sent yet: whether it holds its time meanwhile, and sending it. */
export function DraftState({ event, onSent }: { event: EventDetail; onSent: () => void }) {
  const actions = useEventActions();
  const [message, setMessage, messageSent] = useKeptText(`send ${event.id}`);
  const asked = event.attendees.filter((one) => one.role !== 'organizer');
  const hold = useMutation({
    mutationFn: (holds: boolean) =>
      actions.change(
        event.id,
        { version: event.version, holds, tell: 'nobody' },
        holds ? 'It holds its time now.' : 'It holds no time now.',
      ),
  });
  const send = useMutation({
    mutationFn: () => actions.send(event.id, { version: event.version, message }),
    onSuccess: () => {
      messageSent();
      onSent();
    },
  });
  const places = event.resources.map((one) => one.name);
  const error = send.error ?? hold.error;
  const taken = takenIn(error);
  // What the waiting list holds is no draft of anybody's: it is taken, or let go.
  const { data: waited } = useWaited();
  if (waited?.waiting.some((one) => one.eventId === event.id && one.offeredUntil !== null))
    return <HeldForMe eventId={event.id} />;
  return (
    <section aria-label="Draft" className="grid gap-3 rounded-sm border border-edge p-3">
      <p className="font-semibold">
        {event.draft!.holds && places.length > 0
          ? `A draft; ${listNames(places, 3)} ${places.length === 1 ? 'is' : 'are'} taken meanwhile, and others may see by whom`
          : 'A draft: nobody else sees it'}
      </p>
      <Switch
        label={
          places.length > 0
            ? `Hold my time, as perhaps taken, and ${listNames(places, 3)} meanwhile`
            : 'Hold my time meanwhile, as perhaps taken'
        }
        on={event.draft!.holds}
        disabled={hold.isPending}
        onChange={(on) => hold.mutate(on)}
      />
      {asked.length > 0 && (
        <Field label="Message to them">
          <TextArea
            rows={2}
            maxLength={2000}
            value={message}
            onChange={(change) => setMessage(change.target.value)}
          />
        </Field>
      )}
      {taken ? (
        <p role="alert" className="font-semibold text-alpenglow">
          {listNames(
            taken.taken.map((one) => one.name),
            3,
          )}{' '}
          is taken at that time. Change the time or the place, then send it.
        </p>
      ) : (
        Boolean(error) && <Failure error={error} />
      )}
      <div>
        <Button
          look="act"
          disabled={send.isPending || send.isSuccess || hold.isPending}
          onClick={() => send.mutate()}
        >
          {asked.length === 0
            ? 'Put it into my calendar'
            : asked.length === 1
              ? `Send to ${asked[0]!.name}`
              : `Send to ${asked.length} people`}
        </Button>
      </div>
    </section>
  );
}
