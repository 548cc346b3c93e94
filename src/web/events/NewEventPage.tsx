import { Paperclip, X } from 'lucide-react';
import { useRef, useState } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { HOUR, MINUTE } from '../../core/time/interval.ts';
import { errorText, useChanged, useMe, useNow, usePreferences } from '../client/index.ts';
import { Button, IconButton } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { DayBeside } from '../plan/index.ts';
import { uploadAttachment } from './Attachments.tsx';
import { EventForm } from './EventForm.tsx';
import { BegunBefore, NEW } from './FormNotices.tsx';
import { WhoIsTold } from './NewEventPanel.tsx';
import { useNewEvent } from './useNewEvent.ts';
import type { CarriedDraft } from '../meetings/index.ts';
import { blankDraft } from '../meetings/index.ts';

/** A new event with all its details, and beside it the day of everybody whom it needs. */
export function NewEventPage() {
  const me = useMe();
  const now = useNow();
  const { defaultReminders, defaultMinutes } = usePreferences();
  const navigate = useNavigate();
  const changed = useChanged();
  const { key, state } = useLocation();
  const carried = (state as Partial<CarriedDraft> | null) ?? {};
  const name = carried.name ?? `${NEW}${key}`;
  const [files, setFiles] = useState<File[]>([]);
  const {
    form,
    draft,
    span,
    date,
    gathering,
    make,
    isBusy,
    setSpan,
    toPlan,
    isReady,
    label,
    keep,
    guests,
  } = useNewEvent(
    {
      name,
      initial: () => {
        const start = Math.ceil(now / HOUR) * HOUR;
        const usual = { start, end: start + defaultMinutes * MINUTE, allDay: false };
        return blankDraft(usual, me.zone, defaultReminders);
      },
      begun: carried.draft,
    },
    (id) => void sendAll(id).then(() => navigate(`/calendar?date=${draft.typed.date}&event=${id}`)),
  );
  const sendAll = async (id: string) => {
    for (const file of files) {
      try {
        await uploadAttachment(id, file, () => undefined);
      } catch (error) {
        tellUser(`${file.name}: ${errorText(error)}`);
      }
    }
    // Read again meanwhile: what is slow to be read does not keep anybody from what is made.
    void changed('calendar');
  };
  return (
    <main className="grid flex-1 lg:grid-cols-[minmax(380px,520px)_minmax(0,1fr)]">
      <div className="px-4 py-5 md:px-6">
        <h1 className="sr-only">New event</h1>
        <EventForm
          mayGrant
          isNew
          form={form}
          full
          gathering={gathering}
          action={label}
          keep={keep}
          busy={isBusy || !isReady}
          error={make.error}
          save={(result) => make.mutate(result)}
          told={<WhoIsTold guests={guests} />}
          before={<BegunBefore own={name} onTake={form.set} />}
        >
          <Files files={files} onChange={setFiles} />
        </EventForm>
      </div>
      <div className="border-edge bg-sheet py-5 max-lg:border-t lg:border-l lg:pr-3">
        <DayBeside
          gathering={gathering}
          span={span}
          date={date}
          allDay={draft.typed.allDay}
          onSpan={setSpan}
          toPlan={toPlan}
        />
      </div>
    </main>
  );
}

/** Files that go with it once it is made. */
function Files({ files, onChange }: { files: readonly File[]; onChange: (files: File[]) => void }) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <div className="flex flex-wrap items-center gap-2">
      <input
        ref={input}
        type="file"
        multiple
        className="sr-only"
        tabIndex={-1}
        aria-label="Attachments"
        onChange={(event) => onChange([...files, ...(event.target.files ?? [])])}
      />
      <Button className="flex items-center gap-1.5" onClick={() => input.current?.click()}>
        <Paperclip size={14} aria-hidden="true" />
        Add files, up to 10 MB each
      </Button>
      {files.map((file) => (
        <span
          key={`${file.name} ${file.size}`}
          className="flex items-center rounded-full border border-edge bg-sheet pl-3"
        >
          {file.name}
          <IconButton
            small
            label={`Leave ${file.name} out`}
            onClick={() => onChange(files.filter((one) => one !== file))}
          >
            <X size={14} aria-hidden="true" />
          </IconButton>
        </span>
      ))}
    </div>
  );
}
