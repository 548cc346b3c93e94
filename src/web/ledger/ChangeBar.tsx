import { useState } from 'react';
import { type LedgerChange, type LedgerRow } from '../../contract/ledger.ts';
import { MOST_CHANGED } from '../../contract/limits.ts';
import { counted } from '../../core/counted.ts';
import { errorText, useKeptText, useMe } from '../client/index.ts';
import { Button, Field, TextArea } from '../design/controls.tsx';
import { QuestionDialog } from '../design/QuestionDialog.tsx';
import { Select } from '../design/Select.tsx';
import { FindField } from '../find/index.ts';
import { useChangeLedger } from './useLedger.ts';
import { toldWords } from './words.ts';

type Way = LedgerChange['change']['kind'];

/** What can be done with the bookings that are chosen. */
export function ChangeBar({
  chosen,
  onDone,
}: {
  chosen: readonly LedgerRow[];
  onDone: () => void;
}) {
  const [way, setWay] = useState<Way | null>(null);
  const tooMany = chosen.length > MOST_CHANGED;
  return (
    <div className="sticky bottom-0 z-20 flex flex-wrap items-center gap-2 border-t border-edge bg-paper py-2">
      <b className="mr-2 font-semibold">{counted(chosen.length, 'booking')} chosen</b>
      <Button look="danger" disabled={tooMany} onClick={() => setWay('give-back')}>
        Give back
      </Button>
      <Button disabled={tooMany} onClick={() => setWay('place')}>
        Another place
      </Button>
      <Button disabled={tooMany} onClick={() => setWay('shift')}>
        Another time
      </Button>
      <Button look="quiet" onClick={onDone}>
        Choose none
      </Button>
      {tooMany && (
        <span role="status" className="font-semibold text-alpenglow">
          At most {MOST_CHANGED} at once.
        </span>
      )}
      {way && (
        <ChangeDialog way={way} chosen={chosen} onClose={() => setWay(null)} onDone={onDone} />
      )}
    </div>
  );
}

const HOUR = 60;
const DAY = 24 * HOUR;
const SHIFTS = [
  [-7 * DAY, 'a week earlier'],
  [-DAY, 'a day earlier'],
  [-HOUR, 'an hour earlier'],
  [-30, 'half an hour earlier'],
  [-15, 'a quarter of an hour earlier'],
  [15, 'a quarter of an hour later'],
  [30, 'half an hour later'],
  [HOUR, 'an hour later'],
  [DAY, 'a day later'],
  [7 * DAY, 'a week later'],
] as const;

/** Says what becomes of the bookings and who hears of it, before it is done. */
function ChangeDialog({
  way,
  chosen,
  onClose,
  onDone,
}: {
  way: Way;
  chosen: readonly LedgerRow[];
  onClose: () => void;
  onDone: () => void;
}) {
  const me = useMe();
  const [message, setMessage, messageSent] = useKeptText(`ledger ${way}`);
  const [place, setPlace] = useState<{ id: number; name: string } | null>(null);
  const [minutes, setMinutes] = useState<number>(HOUR);
  const change = useChangeLedger(() => {
    messageSent();
    onClose();
    onDone();
  });
  const count = counted(chosen.length, 'booking');
  const meetings = chosen.filter((row) => (row.others ?? 0) > 0).length;
  const shift = SHIFTS.find(([value]) => value === minutes)![1];
  const asked = {
    'give-back': { kind: 'give-back' as const },
    place: place && { kind: 'place' as const, placeId: place.id },
    shift: { kind: 'shift' as const, minutes },
  }[way];
  const words = {
    'give-back': { verb: `Give ${count} back`, done: `${count} given back.` },
    place: {
      verb: place ? `Move ${count} to ${place.name}` : 'Choose a place first',
      done: `${count} moved to ${place?.name ?? ''}.`,
    },
    shift: { verb: `Move ${count} ${shift}`, done: `${count} moved ${shift}.` },
  }[way];
  const submit = () =>
    asked &&
    change.mutate({
      request: {
        bookings: chosen.map(({ id, start }) => ({ id, start })),
        change: asked,
        message,
      },
      done: words.done,
    });
  return (
    <QuestionDialog
      title={
        { 'give-back': `Give ${count} back`, place: `Move ${count}`, shift: `Move ${count}` }[way]
      }
      onClose={onClose}
    >
      {way === 'give-back' && meetings > 0 && (
        <p>
          {counted(meetings, 'meeting')} of them {meetings === 1 ? 'goes' : 'go'} on without a
          place; the rest {meetings === 1 ? 'is' : 'are'} cancelled.
        </p>
      )}
      {way === 'place' && (
        <FindField
          label="Which place"
          kinds={['resource']}
          inFlow
          onFound={(one) => setPlace({ id: one.id, name: one.name })}
        />
      )}
      {way === 'place' && place && <p className="font-semibold">{place.name}</p>}
      {way === 'shift' && (
        <>
          <Field label="By how much">
            <Select
              value={minutes}
              onChange={setMinutes}
              options={SHIFTS.map(([value, text]) => ({ value, words: text }))}
            />
          </Field>
          {meetings > 0 && (
            <p className="font-semibold text-alpenglow">
              {counted(meetings, 'meeting')} with others among them: move those from their own page.
            </p>
          )}
        </>
      )}
      <p>{toldWords(chosen, me.id)} All of it is done, or nothing.</p>
      <Field label="Message to them">
        <TextArea
          rows={2}
          maxLength={1000}
          value={message}
          onChange={(event) => setMessage(event.target.value)}
        />
      </Field>
      {change.isError && (
        <p role="alert" className="font-semibold text-alpenglow">
          {errorText(change.error)}
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        <Button look="act" disabled={!asked || change.isPending} onClick={submit}>
          {words.verb}
        </Button>
        <Button look="quiet" onClick={onClose}>
          Leave them as they are
        </Button>
      </div>
    </QuestionDialog>
  );
}
