import { useState } from 'react';
import type { Offer } from '../../core/planner/blockers.ts';
import { formatDay, formatSpan, formatTime } from '../../core/time/format.ts';
import type { Interval } from '../../core/time/interval.ts';
import { wallTimeAt } from '../../core/time/wall.ts';
import { offerUndo } from '../client/index.ts';
import { PartHeading } from '../design/controls.tsx';
import type { Explained } from '../workers/index.ts';
import {
  blockerNames,
  concede,
  concessionWords,
  type Conceding,
  type ConcessionNames,
} from './concessionWords.ts';
import type { Plan } from './usePlan.ts';
import { type MyMeeting } from '../lineUp/index.ts';
import { AskDialog, type Question } from '../meetings/index.ts';

const SHOWN = 7;

/** A concession in words, made, and taken back. */
type Trying = ConcessionNames & Conceding & Pick<Plan, 'asked' | 'restore'>;

/** Who or what stands in the way, and what each single concession would open. */
export function BlockersPanel({
  plan,
  explained,
}: {
  plan: Trying & Pick<Plan, 'choose' | 'me' | 'setMakingRoom'>;
  explained: Explained | null;
}) {
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
    <section aria-label="What would help" className="mt-4">
      <PartHeading remark="more starts">What would help</PartHeading>
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
          className="reach mt-1 text-xs font-semibold text-gentian hover:underline"
          onClick={() => setAll(!all)}
        >
          {all ? 'Fewer' : `${lines.length - SHOWN} more`}
        </button>
      )}
    </section>
  );
}

/** One thing that would help: what, how many starts it opens, what to press, and a remark. */
function Line({
  words,
  gains,
  acts,
  best,
  remark,
}: {
  words: string;
  gains: number;
  acts: { label: string; says: string; act: () => void }[];
  /** The best time of those, to concede it and choose that at once. */
  best?: { words: string; says: string; act: () => void } | null;
  remark?: string;
}) {
  return (
    <div className="border-t border-edge py-1">
      <div className="flex items-baseline gap-2">
        <span className="min-w-0 flex-1">{words}</span>
        <span className="font-semibold whitespace-nowrap text-lichen-ink">
          +{gains} {gains === 1 ? 'start' : 'starts'}
        </span>
      </div>
      <div className="flex flex-wrap items-baseline gap-x-2.5 text-xs">
        <span className="min-w-0 flex-1 text-ink-2">
          {remark}
          {best && (
            <button
              type="button"
              className="min-h-6 font-semibold text-gentian hover:underline max-sm:min-h-11"
              onClick={best.act}
              aria-label={`${best.says}, and choose ${best.words}`}
            >
              {best.words}
            </button>
          )}
        </span>
        {acts.map(({ label, says, act }) => (
          <button
            key={label}
            type="button"
            className="reach min-h-6 font-semibold whitespace-nowrap text-gentian hover:underline max-sm:min-h-11"
            onClick={act}
            aria-label={`${label}: ${says}`}
          >
            {label}
          </button>
        ))}
      </div>
    </div>
  );
}

/** Changes the plan, with a way back. */
function tried(
  words: string,
  { asked, restore }: Pick<Plan, 'asked' | 'restore'>,
  change: () => void,
): void {
  change();
  offerUndo(`Now looking: ${words}.`, () => restore(asked));
}

/** Conceding something and choosing its best time with one click, and taking both back with one. */
const takingBest = (
  best: Interval | null,
  says: string,
  plan: Pick<Plan, 'me' | 'asked' | 'restore' | 'choose'>,
  change: () => void,
) =>
  best && {
    words: `${formatDay(best.start, plan.me.zone)} ${formatTime(best.start, plan.me.zone, plan.me.clock)}`,
    says,
    act: () =>
      tried(says, plan, () => {
        change();
        plan.choose(best);
      }),
  };

function OfferLine({
  offer: { concession, gains, best },
  plan,
  alsoOptional,
}: {
  offer: Offer;
  plan: Trying & Pick<Plan, 'choose'>;
  alsoOptional: boolean;
}) {
  const words = concessionWords(concession, plan);
  const change = () => concede(concession, plan);
  const first = {
    label: concession.kind === 'setAside' ? 'set aside' : 'try it',
    says: words,
    act: () => tried(words, plan, change),
  };
  const optional =
    alsoOptional && concession.kind === 'setAside'
      ? [
          {
            label: 'optional',
            says: `${words}, as optional`,
            act: () =>
              tried(`${words}, as optional`, plan, () =>
                concede({ kind: 'optional', memberId: concession.memberId }, plan),
              ),
          },
        ]
      : [];
  return (
    <li>
      <Line
        words={words}
        gains={gains}
        acts={[first, ...optional]}
        best={takingBest(best, words, plan, change)}
      />
    </li>
  );
}

/** Nobody alone is in the way: the smallest groups without whom there is a time. */
function Absences({
  plan,
  explained,
}: {
  plan: Trying & Pick<Plan, 'choose'>;
  explained: Explained;
}) {
  const { sets, complete } = explained.absences;
  const size = sets[0]!.blockers.length;
  const { lineUp, setLineUp, set, wishes } = plan;
  const leaveOut = (blockers: (typeof sets)[number]['blockers']) => {
    const ids = blockers.flatMap((one) => (one.kind === 'member' ? [one.id] : []));
    const sites = blockers.flatMap((one) => (one.kind === 'site' ? [one.siteId] : []));
    setLineUp(lineUp.map((one) => (ids.includes(one.id) ? { ...one, setAside: true } : one)));
    if (sites.length) set({ withoutRoom: [...wishes.rooms.without, ...sites] });
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
          const words = `Without ${blockerNames(blockers, plan)}`;
          return (
            <li key={JSON.stringify(blockers)}>
              <Line
                words={words}
                gains={gains}
                acts={[
                  {
                    label: 'set aside',
                    says: words,
                    act: () => tried(words, plan, () => leaveOut(blockers)),
                  },
                ]}
                best={takingBest(best, words, plan, () => leaveOut(blockers))}
              />
            </li>
          );
        })}
      </ul>
    </>
  );
}

/** Moving a meeting of my own, to a time at which its own people can come, with what is sent. */
function MoveLine({
  move,
  plan: { me, choose, setMakingRoom },
}: {
  move: Explained['moves'][number];
  plan: Pick<Plan, 'me' | 'choose' | 'setMakingRoom'>;
}) {
  const [question, setQuestion] = useState<Question | null>(null);
  // The planner hands back the very meeting it was given.
  const meeting = move.meeting as MyMeeting;
  const others = meeting.lineUp.filter((one) => one.kind === 'person' && one.id !== me.id).length;
  const to = formatSpan(move.to, me.zone, me.clock);
  const act: Question['act'] = ({ tell, message }) => {
    const { eventId, recurrenceId: occurrence, version, zone, title, outsiders } = meeting;
    setMakingRoom({
      eventId,
      occurrence,
      title,
      to: move.to,
      told: tell === 'everyone' ? others + outsiders : 0,
      request: {
        eventId,
        version,
        ...(occurrence && { occurrence }),
        times: {
          startsAt: wallTimeAt(move.to.start, zone),
          endsAt: wallTimeAt(move.to.end, zone),
          zone,
        },
        tell: tell === 'everyone' ? 'everyone' : 'nobody',
        message,
      },
    });
    choose(move.best);
  };
  const free = others === 0 ? '' : `, where all ${others + 1} of it are free`;
  const outsiders = meeting.outsiders ? `; of ${meeting.outsiders} outside nothing is known` : '';
  const opens = `${formatDay(move.best.start, me.zone)} ${formatTime(move.best.start, me.zone, me.clock)}`;
  const words = `Move your “${meeting.title}” of ${formatDay(meeting.start, me.zone)}`;
  const ask = () =>
    setQuestion({
      title: `Move “${meeting.title}” to ${to}?`,
      seriesStart: null,
      others: others + meeting.outsiders,
      verb: 'Move it with this',
      act,
    });
  return (
    <li>
      <Line
        words={words}
        gains={move.gains}
        acts={[{ label: 'try it', says: words, act: ask }]}
        remark={`to ${to}${free}${outsiders}; opens ${opens}`}
      />
      {question && <AskDialog question={question} onClose={() => setQuestion(null)} />}
    </li>
  );
}
