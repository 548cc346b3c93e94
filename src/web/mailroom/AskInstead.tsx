import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { MailroomAnswer, MailroomMessage } from '../../contract/mailroom.ts';
import { resolveSpan } from '../../core/time/eventTimes.ts';
import { formatSpan } from '../../core/time/format.ts';
import { DAY, HOUR } from '../../core/time/interval.ts';
import { readTimes, retyped, typedFrom } from '../../core/time/typedTimes.ts';
import { errorText, useChanged, useMe, useNow, callApi } from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { TimesFields, useNowMinutes } from '../time/index.ts';

/** Asks for another time by mail, as the program of somebody outside would (COUNTER). */
export function AskInstead({ message }: { message: MailroomMessage }) {
  const me = useMe();
  const now = useNow();
  const changed = useChanged();
  const [typed, setTyped] = useState(() => {
    const start = Math.ceil((now + DAY) / HOUR) * HOUR;
    return typedFrom(start, start + HOUR, me.zone);
  });
  const read = readTimes(typed, useNowMinutes(typed.zone));
  const ask = useMutation({
    mutationFn: () => {
      const { start, end } = resolveSpan({ ...read.times!, fold: 'earlier' });
      return callApi('POST /api/mailroom/:id/answer', {
        params: { id: message.id },
        body: {
          reply: 'tentative',
          instead: { start, end },
        } satisfies MailroomAnswer,
      }).then(() =>
        tellUser(
          `Asked for ${formatSpan({ start, end }, me.zone, me.clock)} as ${message.to.name || message.recipient}.`,
        ),
      );
    },
    onSuccess: () => changed('meeting'),
  });
  return (
    <details className="mt-3">
      <summary className="cursor-pointer font-semibold max-sm:min-h-11">
        Ask for another time instead
      </summary>
      <form
        className="mt-2 grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (read.times && !ask.isPending) ask.mutate();
        }}
      >
        <TimesFields
          typed={typed}
          change={(part) => setTyped((before) => retyped(before, part))}
          errors={read.errors}
          allowAllDay={false}
        />
        {ask.isError && (
          <p role="alert" className="font-semibold text-alpenglow">
            {errorText(ask.error)}
          </p>
        )}
        <div>
          <Button type="submit" disabled={!read.times || ask.isPending}>
            Ask for it
          </Button>
        </div>
      </form>
    </details>
  );
}
