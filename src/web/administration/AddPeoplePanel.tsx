import { useState } from 'react';
import type { SiteDetail } from '../../contract/administration.ts';
import { counted } from '../../core/counted.ts';
import { errorText } from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { Panel } from '../design/Panel.tsx';
import { Tick } from '../design/ticks.tsx';
import { PastedPeople, type PastedChanges, type Understood } from './PastedPeople.tsx';
import { useAddPeople } from './useAdministration.ts';

/** People by their addresses, in a panel. */
export function AddPeoplePanel({
  open,
  sites,
  onClose,
}: {
  open: boolean;
  sites: readonly SiteDetail[];
  onClose: () => void;
}) {
  return (
    <Panel open={open} onClose={onClose} title="Add people">
      <Adding sites={sites} onDone={onClose} />
    </Panel>
  );
}

function Adding({ sites, onDone }: { sites: readonly SiteDetail[]; onDone: () => void }) {
  const [text, setText] = useState('');
  const [changes, setChanges] = useState<PastedChanges>({});
  const [people, setPeople] = useState<Understood[]>([]);
  const [welcome, setWelcome] = useState(true);
  const add = useAddPeople(onDone);
  return (
    <div className="grid gap-4">
      <p className="text-ink-2">
        Paste addresses as you have them: from a letter, a list or a table.
      </p>
      <PastedPeople
        {...{ text, sites, changes }}
        isNarrow
        onText={setText}
        onChanges={setChanges}
        onPeople={setPeople}
      />
      <Tick label="Write each a letter of welcome" on={welcome} onChange={setWelcome} />
      {add.isError && (
        <p role="alert" className="rounded-sm bg-glow-wash px-3 py-2 font-semibold">
          {errorText(add.error)}
        </p>
      )}
      <Button
        look="act"
        disabled={people.length === 0 || add.isPending}
        onClick={() => add.mutate({ people: people.map(asNew), welcome })}
      >
        {welcome ? 'Invite' : 'Add'} {counted(people.length, 'person', 'people')}
      </Button>
    </div>
  );
}

/** Somebody who was understood, as they are added. */
export const asNew = ({ name, email, siteId, zone }: Understood) => ({ name, email, siteId, zone });
