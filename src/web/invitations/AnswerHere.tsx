import { useState } from 'react';
import type { Reply } from '../../contract/eventDetail.ts';
import { useMe } from '../client/index.ts';
import { Options } from '../design/ticks.tsx';
import { AnswerButtons } from './AnswerButtons.tsx';
import { coverOptions, type Covers } from './coverage.ts';

/**
 * The answers to something that is met on one of its dates: of a series it says which dates an answer
 * is for, and lets that be chosen.
 */
export function AnswerHere({
  event,
  organizer,
  present = 'needs-action',
}: {
  event: {
    id: string;
    title: string;
    start: number;
    end: number;
    /** The date of a series that is in view; null for what happens once. */
    recurrenceId: string | null;
  };
  organizer: string;
  present?: Reply;
}) {
  const me = useMe();
  // What is looked at is one date: more of it is answered by whoever says so.
  const [covers, setCovers] = useState<Covers>('one');
  const { id, title, recurrenceId } = event;
  return (
    <div className="grid gap-2">
      {recurrenceId && (
        <Options
          label="Your answer is for"
          value={covers}
          onChange={setCovers}
          options={coverOptions(event, me)}
        />
      )}
      <AnswerButtons
        asked={{
          eventId: id,
          occurrence: recurrenceId && covers === 'one' ? recurrenceId : null,
          organizer,
          ...(recurrenceId && { covers }),
        }}
        about={title}
        present={present}
      />
    </div>
  );
}
