import { useState } from 'react';
import type { Place } from '../../contract/places.ts';
import { Failure, may, useMe } from '../client/index.ts';
import { OutOfUseList } from '../closures/index.ts';
import { Button } from '../design/controls.tsx';
import { Panel } from '../design/Panel.tsx';
import { Outline } from '../design/states.tsx';
import { PlaceForm } from './PlaceForm.tsx';
import { PlacesFile } from './PlacesFile.tsx';
import { useChoices } from './useCatalogue.ts';

/** For those who look after places: adds one or a file of them, and lists what is out of use; nothing for others. */
export function AddPlaces({ onOpen }: { onOpen: (id: number) => void }) {
  const me = useMe();
  const [open, setOpen] = useState<'one' | 'file' | 'away' | null>(null);
  if (!may(me, 'look-after')) return null;
  const close = () => setOpen(null);
  return (
    <>
      <span className="mt-4 flex flex-wrap gap-1.5">
        <Button className="max-sm:hidden" onClick={() => setOpen('one')}>
          Add a place
        </Button>
        <Button className="max-sm:hidden" onClick={() => setOpen('file')}>
          From a file
        </Button>
        <Button onClick={() => setOpen('away')}>Out of use and retired</Button>
      </span>
      <Panel open={open === 'away'} onClose={close} title="Out of use and retired">
        <OutOfUseList
          onOpen={(id) => {
            close();
            onOpen(id);
          }}
        />
      </Panel>
      <Panel open={open === 'one'} onClose={close} title="A new place">
        <Form
          place={null}
          onClose={close}
          onSaved={(id) => {
            close();
            onOpen(id);
          }}
        />
      </Panel>
      <Panel open={open === 'file'} onClose={close} title="Places from a file">
        <PlacesFile onDone={close} />
      </Panel>
    </>
  );
}

/** Changes a place where its card stands. */
export const ChangePlace = ({ place, onDone }: { place: Place; onDone: () => void }) => (
  <Form place={place} onClose={onDone} onSaved={onDone} />
);

function Form({
  place,
  onSaved,
  onClose,
}: {
  place: Place | null;
  onSaved: (id: number) => void;
  onClose: () => void;
}) {
  const { data, isError, error, refetch } = useChoices();
  if (isError) return <Failure error={error} retry={() => void refetch()} />;
  if (!data) return <Outline what="sites and teams" rows={6} />;
  return <PlaceForm place={place} choices={data} onSaved={onSaved} onClose={onClose} />;
}
