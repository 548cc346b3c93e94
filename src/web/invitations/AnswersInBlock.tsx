import { useAnswer } from './useAnswer.ts';

/** Coming or not, within what stands in the calendar; the rest of the answers are in its panel. */
export function AnswersInBlock({
  item: { eventId, recurrenceId, title, organizer },
}: {
  item: { eventId: string; recurrenceId: string | null; title: string; organizer: string };
}) {
  const { mutate } = useAnswer({
    ...{ eventId, organizer, occurrence: recurrenceId },
    // What stands there is one date of a series.
    ...(recurrenceId !== null && { covers: 'one' as const }),
  });
  return (
    <span role="group" aria-label={`Answer ${title}`} className="flex gap-x-2.5">
      {(
        [
          ['accepted', 'Accept'],
          ['declined', 'Decline'],
        ] as const
      ).map(([reply, words]) => (
        <button
          key={reply}
          type="button"
          className="min-h-6 text-[11.5px] font-semibold text-gentian hover:underline"
          onClick={() => mutate({ reply })}
        >
          {words}
        </button>
      ))}
    </span>
  );
}
