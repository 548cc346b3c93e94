import { useLocation, useNavigate } from 'react-router';
import { forget } from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { typedFrom } from '../../core/time/typedTimes.ts';
import type { Plan } from './usePlan.ts';
import { type CarriedDraft, type Draft } from '../meetings/index.ts';

/** The way back to the form that Plan was opened from, with the time and the line-up found here. */
export function BackToForm({
  plan: { me, chosen, lineUp },
  title,
}: {
  plan: Pick<Plan, 'me' | 'chosen' | 'lineUp'>;
  title: string;
}) {
  const navigate = useNavigate();
  const carried = useLocation().state as Partial<CarriedDraft> | null;
  const draft = carried?.draft;
  if (!draft) return null;
  const back = () => {
    const found: Draft = {
      ...draft,
      title,
      people: lineUp.filter((one) => one.id !== me.id && !one.setAside),
      typed: chosen
        ? typedFrom(chosen.start, chosen.end, draft.typed.zone, false, draft.typed.endZone)
        : draft.typed,
    };
    // What was found here is newer than what was kept of the form.
    if (carried.name) forget(carried.name);
    void navigate('/events/new', { state: { ...carried, draft: found } });
  };
  return (
    <Button look="quiet" onClick={back}>
      {chosen ? 'Take this time to the form' : 'Back to the form'}
    </Button>
  );
}
