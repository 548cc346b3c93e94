import { useState, type DragEvent } from 'react';
import type { MailroomDropped } from '../../contract/mailroom.ts';
import { errorText, sendFile } from '../client/index.ts';
import { tellUser } from '../design/notices.ts';

const SAID: Record<MailroomDropped['state'], string> = {
  counted: 'It is an answer, and is counted.',
  automatic: 'A machine answered by itself; it is noted at whom it is from.',
  bounced: 'A letter did not arrive; it is noted at whom it was to.',
  aside: 'It is put aside.',
};

/** A mail or a calendar file that somebody has goes the same road as one that comes in by itself. */
export function DropMail() {
  const [isOver, setIsOver] = useState(false);
  const [isBusy, setIsBusy] = useState(false);
  const take = async (file: File | undefined) => {
    if (!file) return;
    setIsBusy(true);
    try {
      const { state, reason } = await sendFile('POST /api/mailroom/drop', {}, file);
      tellUser(`${SAID[state]} ${state === 'aside' ? reason : ''}`.trim());
    } catch (error) {
      tellUser(errorText(error));
    } finally {
      setIsBusy(false);
    }
  };
  const over = (event: DragEvent, now: boolean) => {
    event.preventDefault();
    setIsOver(now);
  };
  return (
    <label
      className={`mb-2 inline-flex cursor-pointer items-center rounded-sm border border-dashed px-3 py-1.5 focus-within:outline-2 max-sm:min-h-11 ${isOver ? 'border-gentian bg-gentian-wash' : 'border-ink-2'}`}
      onDragOver={(event) => over(event, true)}
      onDragLeave={(event) => over(event, false)}
      onDrop={(event) => {
        over(event, false);
        void take(event.dataTransfer.files[0]);
      }}
    >
      {isBusy ? 'Reading it …' : 'Drop an answer here (.eml, .ics), or choose it'}
      <input
        type="file"
        accept=".eml,.ics,message/rfc822,text/calendar"
        className="sr-only"
        disabled={isBusy}
        onChange={(event) => {
          void take(event.target.files?.[0]);
          event.target.value = '';
        }}
      />
    </label>
  );
}
