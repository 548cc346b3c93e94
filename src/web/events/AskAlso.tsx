import { useState } from 'react';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { Found } from '../../contract/search.ts';
import { errorText } from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { FindField } from '../find/index.ts';
import { isMailAddress } from '../../core/mailAddress.ts';
import type { LineUpInvitee } from '../lineUp/index.ts';
import { useEventActions } from '../meetings/index.ts';

/** Somebody who is about to be asked as well. */
interface Chosen {
  words: string;
  invitees: LineUpInvitee[];
}

/** Asks somebody as well, to a meeting that is sent; only they are told. Whoever is invited may, where the organizer lets them. */
export function AskAlso({ event }: { event: EventDetail }) {
  const actions = useEventActions();
  const [chosen, setChosen] = useState<Chosen | null>(null);
  const [isBusy, setIsBusy] = useState(false);
  // Whoever is invited themselves and asks others does not decide who must come.
  const role = event.canChange ? ('required' as const) : ('optional' as const);
  const there = new Set(event.attendees.map((one) => one.personId));
  const pick = (one: Exclude<Found, { kind: 'resource' }>) => {
    const ids = (one.kind === 'team' ? one.memberIds : [one.id]).filter((id) => !there.has(id));
    if (ids.length === 0) return tellUser(`${one.name}: asked already.`);
    setChosen({
      words: one.kind === 'team' ? `${ids.length} of ${one.name}` : one.name,
      invitees: ids.map((personId) => ({ personId, role })),
    });
  };
  const ask = async () => {
    setIsBusy(true);
    try {
      await actions.invite(event, chosen!.invitees, chosen!.words);
      setChosen(null);
    } catch (error) {
      tellUser(errorText(error));
    } finally {
      setIsBusy(false);
    }
  };
  return (
    <div className="grid gap-2">
      <FindField
        label="Ask somebody as well"
        kinds={['person', 'team']}
        onFound={(one) => one.kind !== 'resource' && pick(one)}
        onText={(typed) =>
          isMailAddress(typed)
            ? {
                detail: 'outside, by mail',
                pick: () => setChosen({ words: typed, invitees: [{ email: typed, role }] }),
              }
            : null
        }
      />
      {chosen && (
        <div className="flex flex-wrap items-center gap-2">
          <Button look="act" disabled={isBusy} onClick={() => void ask()}>
            Ask {chosen.words}
            {event.series ? ' to all dates' : ''}
          </Button>
          <Button look="quiet" disabled={isBusy} onClick={() => setChosen(null)}>
            Not now
          </Button>
        </div>
      )}
    </div>
  );
}
