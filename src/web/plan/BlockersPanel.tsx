import { useState } from 'react';
import type { Offer } from '../../core/planner/blockers.ts';
import { formatDay, formatSpan, formatTime } from '../../core/time/format.ts';
import { wallTimeAt } from '../../core/time/wall.ts';
import { errorText } from '../app/api.ts';
import { AskDialog, type Question } from '../calendar/AskDialog.tsx';
import { useEventActions } from '../calendar/useEventActions.ts';
import { PartHeading } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import type { Explained } from '../workers/planner.worker.ts';
import { blockerNames, concede, concessionWords } from './concessionWords.ts';
import type { Plan } from './usePlan.ts';
import type { MyMeeting } from './usePlanData.ts';

const SHOWN = 7;

/** Who or what stands in the way, and what each single concession would open. */
export function BlockersPanel({ plan, explained }: { plan: Plan; explained: Explained | null }) {
  const [all, setAll] = useState(false);
  if (!explained) return null;
  const { offers, absences, moves } = explained;
  const optional = new Set(
    offers.flatMap(({ concession: c }) => (c.kind === 'optional' ? [c.memberId] : [])),
  );
  // Without somebody, and with them as optional, open the same starts: one line for both.
  const lines = offers.filter(({ concession }) => concession.kind !== 'optional');
  const shown = all ? lines : lines.slice(0, SHOWN);
  if (lines.length + absences.sets.length + moves.length === 0) return null;
  return (
    <section aria-label="Blockers" className="mt-4">
      <PartHeading remark="more starts">Blockers</PartHeading>
      {absences.sets.length > 0 && <Absences plan={plan} explained={explained} />}
      <ul>
        {shown.map((offer) => (
          <OfferLine
            key={JSON.stringify(offer.concession)}
            offer={offer}
            plan={plan}
            alsoOptional={
              offer.concession.kind === 'setAside' && optional.has(offer.concession.memberId)
            }
          />
        ))}
        {moves.map((move) => (
          <MoveLine key={`${move.meeting.eventId}${move.meeting.start}`} move={move} plan={plan} />
        ))}
      </ul>
      {lines.length > SHOWN && (
        <button
          type="button"
          className="mt-1 text-xs font-semibold text-gentian hover:underline"
          onClick={() => setAll(!all)}
        >
          {all ? 'Fewer' : `${lines.length - SHOWN} more`}
        </button>
      )}
    </section>
  );
}

const LINE = 'border-t border-edge py-1';
const ACT = 'font-semibold text-gentian hover:underline';

function OfferLine({
  offer,
  plan,
  alsoOptional,
}: {
  offer: Offer;
  plan: Plan;
  alsoOptional: boolean;
}) {
  const { concession, gains, best } = offer;
  const { me } = plan;
  const words = concessionWords(concession, plan);
  const act = (chosen: Offer['concession']) => concede(chosen, plan);
  return (
    <li className={LINE}>
      <div className="flex items-baseline gap-2">
        <span className="min-w-0 flex-1">{words}</span>
        <span className="font-semibold text-lichen-ink">+{gains}</span>
        <button
          type="button"
          className={ACT}
          onClick={() => act(concession)}
          aria-label={`Try: ${words}`}
        >
          {concession.kind === 'setAside' ? 'aside' : 'try'}
        </button>
        {alsoOptional && concession.kind === 'setAside' && (
          <button
            type="button"
            className={ACT}
            onClick={() => act({ kind: 'optional', memberId: concession.memberId })}
            aria-label={`Try: ${words}, as optional`}
          >
            optional
          </button>
        )}
      </div>
      {best && (
        <p className="text-xs text-ink-2">
          best {formatDay(best.start, me.zone)} {formatTime(best.start, me.zone, me.clock)}
        </p>
      )}
    </li>
  );
}

/** Nobody alone is in the way: the smallest groups without whom there is a time. */
function Absences({ plan, explained }: { plan: Plan; explained: Explained }) {
  const { sets, complete } = explained.absences;
  const size = sets[0]!.blockers.length;
  const { lineUp, setLineUp, set, wishes, me } = plan;
  const leaveOut = (blockers: (typeof sets)[number]['blockers']) => {
    const ids = blockers.flatMap((one) => (one.kind === 'member' ? [one.id] : []));
    const sites = blockers.flatMap((one) => (one.kind === 'site' ? [one.siteId] : []));
    setLineUp(lineUp.map((one) => (ids.includes(one.id) ? { ...one, setAside: true } : one)));
    if (sites.length) set({ noroom: [...wishes.rooms.without, ...sites].join(',') });
  };
  return (
    <>
      <p className="mb-1 text-xs text-ink-2">
        {size === 1
          ? 'Only without one of these is there a time'
          : `Leaving out one is not enough; it takes ${size}`}
        {complete ? ':' : '. Not every start was looked at; there may be others:'}
      </p>
      <ul>
        {sets.map(({ blockers, gains, best }) => {
          const names = blockerNames(blockers, plan);
          return (
            <li key={names} className={LINE}>
              <div className="flex items-baseline gap-2">
                <span className="min-w-0 flex-1">Without {names}</span>
                <span className="font-semibold text-lichen-ink">+{gains}</span>
                <button
                  type="button"
                  className={ACT}
                  onClick={() => leaveOut(blockers)}
                  aria-label={`Try: Without ${names}`}
                >
                  aside
                </button>
              </div>
              {best && (
                <p className="text-xs text-ink-2">
                  best {formatDay(best.start, me.zone)} {formatTime(best.start, me.zone, me.clock)}
                </p>
              )}
            </li>
          );
        })}
      </ul>
    </>
  );
}

/** Moving a meeting of my own, to a time at which its own people can come; asked before it is done. */
function MoveLine({ move, plan }: { move: Explained['moves'][number]; plan: Plan }) {
  const { me, choose } = plan;
  const actions = useEventActions();
  const [question, setQuestion] = useState<Question | null>(null);
  // The planner hands back the very meeting it was given.
  const meeting = move.meeting as MyMeeting;
  const others = meeting.lineUp.filter((one) => one.kind === 'person' && one.id !== me.id).length;
  const to = formatSpan(move.to, me.zone, me.clock);
  const act: Question['act'] = ({ tell, message }) => {
    const occurrence = meeting.recurrenceId;
    void actions
      .change(
        meeting.eventId,
        {
          version: meeting.version,
          ...(occurrence && { scope: 'one' as const, occurrence }),
          times: {
            startsAt: wallTimeAt(move.to.start, meeting.zone),
            endsAt: wallTimeAt(move.to.end, meeting.zone),
            zone: meeting.zone,
          },
          tell,
          message,
        },
        `“${meeting.title}” is moved to ${to}.`,
      )
      .then(
        () => choose(move.best),
        (error: unknown) => tellUser(errorText(error)),
      );
  };
  const free = others === 0 ? '' : `, where all ${others + 1} of it are free`;
  const outsiders = meeting.outsiders ? `; of ${meeting.outsiders} outside nothing is known` : '';
  const words = `Move your “${meeting.title}” of ${formatDay(meeting.start, me.zone)}`;
  return (
    <li className={LINE}>
      <div className="flex items-baseline gap-2">
        <span className="min-w-0 flex-1">{words}</span>
        <span className="font-semibold text-lichen-ink">+{move.gains}</span>
        <button
          type="button"
          className={ACT}
          onClick={() =>
            setQuestion({
              title: `Move “${meeting.title}” to ${to}?`,
              seriesStart: null,
              others: others + meeting.outsiders,
              verb: 'Move it',
              act,
            })
          }
          aria-label={`Try: ${words}`}
        >
          try
        </button>
      </div>
      <p className="text-xs text-ink-2">
        to {to}
        {free}
        {outsiders}; opens {formatDay(move.best.start, me.zone)}{' '}
        {formatTime(move.best.start, me.zone, me.clock)}
      </p>
      {question && <AskDialog question={question} onClose={() => setQuestion(null)} />}
    </li>
  );
}
