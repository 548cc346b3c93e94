import { useState } from 'react';
import type { EventDetail } from '../../contract/eventDetail.ts';
import { errorText } from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { AddMember, joined, type LineUpEntry, type LineUpInvitee } from '../lineUp/index.ts';
import { counted } from '../../core/counted.ts';
import { useEventActions } from '../meetings/index.ts';

/** Asks somebody as well, to a meeting that is sent; only they are told. Whoever is invited may, where the organizer lets them. */
export function AskAlso({ event }: { event: EventDetail }) {
  const actions = useEventActions();
  const [chosen, setChosen] = useState<readonly LineUpEntry[]>([]);
  const [name, setName] = useState<string | null>(null);
  const [isBusy, setIsBusy] = useState(false);
  // Whoever is invited themselves and asks others does not decide who must come.
  const role = event.canChange ? ('required' as const) : ('optional' as const);
  const asked = event.attendees.flatMap((one) => one.personId ?? []);
  const there = new Set([...asked, ...chosen.map((one) => one.id)]);
  const add = (fresh: readonly LineUpEntry[], named?: string) => {
    const others = fresh.filter((one) => one.email || !there.has(one.id));
    if (others.length === 0) return tellUser(`${named ?? 'All of them'}: asked already.`);
    setName(chosen.length === 0 && others.length === 1 ? (named ?? null) : null);
    setChosen(joined(chosen, others));
  };
  const words = name ?? counted(chosen.length, 'person', 'people');
  const ask = async () => {
    setIsBusy(true);
    try {
      const invitees = chosen.map(({ id, email }): LineUpInvitee =>
        email ? { email, role } : { personId: id, role },
      );
      await actions.invite(event, invitees, words);
      setChosen([]);
    } catch (error) {
      tellUser(errorText(error));
    } finally {
      setIsBusy(false);
    }
  };
  return (
    <div className="grid gap-2">
      <AddMember
        label="Ask somebody as well"
        kinds={['person', 'team']}
        there={there}
        onAdd={add}
      />
      {chosen.length > 0 && (
        <div className="flex flex-wrap items-center gap-2">
          <Button look="act" disabled={isBusy} onClick={() => void ask()}>
            Ask {words}
            {event.series ? ' to all dates' : ''}
          </Button>
          <Button look="quiet" disabled={isBusy} onClick={() => setChosen([])}>
            Not now
          </Button>
        </div>
      )}
    </div>
  );
}
