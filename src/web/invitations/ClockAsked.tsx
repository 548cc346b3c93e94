import { useState } from 'react';
import { useMe } from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { ZoneField } from '../time/index.ts';

/** By whose clock the times of a letter are that calls it something nobody knows. */
export function ClockAsked({
  isBusy,
  onChosen,
}: {
  isBusy: boolean;
  onChosen: (zone: string) => void;
}) {
  const me = useMe();
  const [zone, setZone] = useState(me.zone);
  return (
    <div className="flex max-w-md flex-wrap items-end gap-2 py-1">
      <ZoneField label="By the clock of" value={zone} onChange={setZone} />
      <Button className="max-sm:min-h-11" disabled={isBusy} onClick={() => onChosen(zone)}>
        Take it so
      </Button>
    </div>
  );
}
