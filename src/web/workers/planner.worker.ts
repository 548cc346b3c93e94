import { expose } from 'comlink';
import { smallestAbsences } from '../../core/planner/absences.ts';
import { concessions, type BlockerQuestion } from '../../core/planner/blockers.ts';
import type { LineUpMember } from '../../core/planner/lineUp.ts';
import { moves, type OwnMeeting } from '../../core/planner/moves.ts';
import { openings } from '../../core/planner/openings.ts';
import { whyNothing } from '../../core/planner/refusals.ts';
import { ridge } from '../../core/planner/ridge.ts';
import { weeklyTimeAt, weeklyTimes } from '../../core/planner/series.ts';
import type { Surroundings, Wishes } from '../../core/planner/wishes.ts';
import type { Interval } from '../../core/time/interval.ts';

/** What is known of everybody's time: sent once, when it arrives, and kept between questions. */
interface Known extends Surroundings {
  members: Omit<LineUpMember, 'role' | 'setAside'>[];
  own: OwnMeeting[];
}

/** What is asked about it: small, so that asking again costs next to nothing. */
export interface PlannerQuestion {
  lineUp: Pick<LineUpMember, 'id' | 'role' | 'setAside'>[];
  wishes: Wishes;
}

export interface PlannerDoubts {
  /** Ids that cannot be left out. */
  keep: number[];
  /** The window for which times are known. */
  known: Interval;
  /** How far a look further may go. */
  furthest: Interval;
  series: { count: number; everyWeeks: number; at: number | null } | null;
}

let known: Known = { members: [], rooms: [], history: [], own: [] };
/** Counts what was asked, so that explaining an older question ends when a newer one is there. */
let asks = 0;

/** Lets what has been asked meanwhile be answered first. */
const pause = () => new Promise((resolve) => setTimeout(resolve, 0));

function questionOf({ lineUp, wishes }: PlannerQuestion): BlockerQuestion {
  const byId = new Map(known.members.map((member) => [member.id, member]));
  const members = lineUp.flatMap(({ id, role, setAside }) => {
    const member = byId.get(id);
    return member ? [{ ...member, role, setAside }] : [];
  });
  return { members, wishes, surroundings: known };
}

const planner = {
  know(data: Known): void {
    known = data;
  },

  /** What is seen at once: the ridge and the openings. */
  compute(asked: PlannerQuestion) {
    asks++;
    const { members, wishes, surroundings } = questionOf(asked);
    return {
      ridge: ridge(members, wishes, surroundings),
      openings: openings(members, wishes, surroundings),
    };
  },

  /** What takes longer: why there is nothing, what would help, and weekly times; null when overtaken. */
  async explain(asked: PlannerQuestion, { keep, known: window, furthest, series }: PlannerDoubts) {
    const asksThen = asks;
    const overtaken = async () => {
      await pause();
      return asks !== asksThen;
    };
    const question = questionOf(asked);
    const offers = concessions(question, { keep, known: furthest });
    const why = whyNothing(question);
    if (await overtaken()) return null;
    const absences = offers.some((one) => one.concession.kind === 'setAside')
      ? { sets: [], complete: true }
      : smallestAbsences(question, { keep });
    if (await overtaken()) return null;
    const moved = moves(question, known.own);
    if (await overtaken()) return null;
    // A series is looked at over all its dates, not only over the days shown.
    const whole = { ...question, wishes: { ...question.wishes, window } };
    return {
      why,
      offers,
      absences,
      moves: moved,
      weekly: series ? weeklyTimes(whole, series) : [],
      chosenWeekly: series?.at ? weeklyTimeAt(whole, series.at, series) : null,
    };
  },
};

export type Planner = typeof planner;
export type Computed = ReturnType<typeof planner.compute>;
export type Explained = NonNullable<Awaited<ReturnType<typeof planner.explain>>>;

expose(planner);
