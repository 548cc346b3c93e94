import type { EventDetail } from '../../contract/eventDetail.ts';
import type { NotifyScope } from '../../contract/events.ts';
import { Field, TextArea } from '../design/controls.tsx';
import { Options, Tick } from '../design/ticks.tsx';
import { EventForm } from './EventForm.tsx';
import { useEventDraft } from './useEventDraft.ts';
import { PartChoice } from '../meetings/index.ts';

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
  const { form, gathering, scope, setScope, tell, setTell, message, setMessage, ...rest } =
    useEventDraft(event, onDone);
  const { people, isRefused, isReady, telling, change } = rest;
  return (
    <EventForm
      mayGrant={event.canCancel}
      form={form}
      full={full}
      gathering={gathering}
      repeats={event.series === null || scope !== 'one'}
      {...(event.series && { cancelled: event.series.cancelled })}
      action={actionWords(people, telling)}
      busy={change.isPending || change.isSuccess || isRefused || !isReady}
      error={change.error}
      save={(result) => change.mutate(result)}
      before={event.series && <PartChoice start={event.start} value={scope} onChange={setScope} />}
    >
      {isRefused && (
        <p role="alert" className="font-semibold text-alpenglow">
          Who is asked can be changed for the whole series or for what follows; choose that above.
        </p>
      )}
      {people.all > 0 && (
        <div className="grid gap-2">
          {people.concerned > 0 && people.concerned < people.all ? (
            <Options
              label="Who is told"
              value={tell}
              onChange={setTell}
              options={[
                ['everyone', `all of them, ${people.all}`],
                ['concerned', `only who is added or left out, ${people.concerned}`],
                ['nobody', 'nobody'],
              ]}
            />
          ) : (
            <Tick
              label={`Tell ${personWords(people.all)} about the change`}
              on={tell !== 'nobody'}
              onChange={(on) => setTell(on ? 'everyone' : 'nobody')}
            />
          )}
          {tell !== 'nobody' && (
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

const personWords = (count: number): string => (count === 1 ? '1 person' : `${count} people`);

function actionWords(people: { all: number; concerned: number }, telling: NotifyScope): string {
  if (people.all === 0) return 'Save';
  if (telling === 'nobody') return 'Save without telling anyone';
  return `Save and tell ${personWords(telling === 'everyone' ? people.all : people.concerned)}`;
}
