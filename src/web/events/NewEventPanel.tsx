import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { wallTimeAt } from '../../core/time/wall.ts';
import { useMe, usePreferences } from '../app/index.ts';
import { Button } from '../design/controls.tsx';
import { Panel } from '../design/Panel.tsx';
import { planPath } from '../plan/index.ts';
import { blankDraft, repeatsOf, type Draft } from './draft.ts';
import { EventForm, type FormResult } from './EventForm.tsx';
import { useEventActions } from './useEventActions.ts';

/** Makes a new event of a form's content. */
export function useMakeEvent(onDone: (id: string) => void) {
  const actions = useEventActions();
  return useMutation({
    mutationFn: ({ draft, times, dates }: FormResult) => {
      const { typed: _typed, repeating, ...content } = draft;
      return actions.create({
        ...content,
        times,
        repeats: repeatsOf(repeating),
        ...(dates && { dates }),
      });
    },
    onSuccess: (event) => onDone(event.id),
  });
}

/** Makes a new event at a time picked in the calendar: the quick way. */
export function NewEventPanel({
  start,
  end,
  allDay,
  copyOf,
  onClose,
}: {
  start: number;
  end: number;
  allDay: boolean;
  copyOf?: Draft;
  onClose: () => void;
}) {
  const me = useMe();
  const { defaultReminders } = usePreferences();
  const navigate = useNavigate();
  const [draft, setDraft] = useState(
    () => copyOf ?? blankDraft({ start, end, allDay }, me.zone, defaultReminders),
  );
  const make = useMakeEvent(onClose);
  return (
    <Panel open onClose={onClose} title={copyOf ? 'Copy' : 'New event'}>
      <EventForm
        draft={draft}
        setDraft={setDraft}
        action="Put it in my calendar"
        busy={make.isPending}
        error={make.error}
        save={(result) => make.mutate(result)}
      />
      <div className="mt-3 flex flex-wrap items-center gap-x-2 border-t border-edge pt-3">
        <Button look="quiet" onClick={() => void navigate('/events/new', { state: { draft } })}>
          All its details
        </Button>
        <Link
          className="px-2.5 font-semibold text-gentian"
          to={planPath({ from: wallTimeAt(start, me.zone).slice(0, 10) })}
        >
          Plan it with others
        </Link>
      </div>
    </Panel>
  );
}
