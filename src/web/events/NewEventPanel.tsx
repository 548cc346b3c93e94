import { useNavigate } from 'react-router';
import { listNames } from '../../core/planner/words.ts';
import { useMe, usePreferences } from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { Panel } from '../design/Panel.tsx';
import { required } from '../lineUp/index.ts';
import { EventForm } from './EventForm.tsx';
import { BegunBefore, NEW } from './FormNotices.tsx';
import { useNewEvent } from './useNewEvent.ts';
import { blankDraft, type Draft } from '../meetings/index.ts';

/** Makes a new event at a time picked in the calendar: the quick way. */
export function NewEventPanel({
  id,
  start,
  end,
  allDay,
  copyOf,
  with: subjectId,
  onClose,
}: {
  /** What makes it one of a kind among those that are being made in this tab. */
  id: string;
  start: number;
  end: number;
  allDay: boolean;
  copyOf?: Draft;
  /** Somebody, or a place, whom it is begun with. */
  with?: number;
  onClose: () => void;
}) {
  const me = useMe();
  const { defaultReminders } = usePreferences();
  const navigate = useNavigate();
  const name = `${NEW}${id}`;
  const { form, carried, gathering, make, isBusy, toPlan, isReady, label, keep, guests } =
    useNewEvent(
      {
        name,
        initial: () => ({
          ...blankDraft({ start, end, allDay }, me.zone, defaultReminders),
          people: subjectId ? [required(subjectId)] : [],
        }),
        begun: copyOf,
      },
      onClose,
    );
  return (
    <Panel
      open
      onClose={() => {
        if (form.isTouched)
          tellUser('What you typed is kept in this tab, and offered with the next new event.');
        onClose();
      }}
      title={copyOf ? 'Copy' : 'New event'}
    >
      <EventForm
        mayGrant
        isNew
        form={form}
        gathering={gathering}
        action={label}
        keep={keep}
        busy={isBusy || !isReady}
        error={make.error}
        save={(result) => make.mutate(result)}
        told={<WhoIsTold guests={guests} />}
        before={<BegunBefore own={name} onTake={form.set} />}
      />
      <div className="mt-3 flex flex-wrap items-center gap-x-2 border-t border-edge pt-3">
        <Button look="quiet" onClick={() => void navigate('/events/new', { state: carried() })}>
          All its details
        </Button>
        <Button look="quiet" onClick={toPlan}>
          Look for it in Plan
        </Button>
      </div>
    </Panel>
  );
}

/** Whom saving reaches; nothing where it is nobody. */
export const WhoIsTold = ({ guests }: { guests: readonly string[] }) =>
  guests.length > 0 ? (
    <p className="text-ink-2">
      Invitations go to <span className="text-ink">{listNames(guests, 4)}</span>, by mail and in
      Marmot.
    </p>
  ) : null;
