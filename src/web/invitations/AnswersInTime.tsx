import type { MeetingReplies } from '../../contract/invitations.ts';
import { formatDay } from '../../core/time/format.ts';
import { DAY, HOUR } from '../../core/time/interval.ts';
import { addDays, dateAt, startOfDay } from '../../core/time/wall.ts';
import { useMe, useNow } from '../client/index.ts';
import { initialsOf } from '../design/Initials.tsx';
import { PartHeading } from '../design/controls.tsx';
import { lengthWords } from './attentionWords.ts';
import { REPLY_WORDS } from './replyWords.tsx';

/** Two answers closer together than this part of the line stand above one another. */
const TOO_CLOSE = 0.045;
const LANE_PX = 28;
/** Behind this part of the line there is no room for a name. */
const LAST_NAMED = 0.92;
/** Of more days, not each has its name. */
const MOST_DAYS = 7;

const LOOKS: Record<string, string> = {
  accepted: 'bg-ink text-paper',
  tentative: 'border border-ink bg-sheet',
  declined: 'border border-alpenglow bg-glow-wash text-alpenglow',
};

/** How the answers came in since they were asked for, on a line up to now. */
export function AnswersInTime({ meeting }: { meeting: MeetingReplies }) {
  const me = useMe();
  const now = useNow();
  const asked = Math.min(...meeting.replies.map((one) => one.invitedAt));
  const answers = meeting.replies
    .flatMap((one) => (one.repliedAt === null ? [] : [{ ...one, at: one.repliedAt }]))
    .sort((a, b) => a.at - b.at);
  if (answers.length < 2 || now - asked < HOUR) return null;
  const x = (at: number) => Math.min(1, Math.max(0, (at - asked) / (now - asked)));
  const lanes: number[] = [];
  const placed = answers.map((one) => {
    const at = x(one.at);
    let lane = lanes.findIndex((last) => at - last >= TOO_CLOSE);
    if (lane < 0) lane = lanes.length;
    lanes[lane] = at;
    return { ...one, x: at, lane };
  });
  const days: number[] = [];
  for (
    let day = startOfDay(addDays(dateAt(asked, me.zone), 1), me.zone);
    day < now;
    day = startOfDay(addDays(dateAt(day + HOUR, me.zone), 1), me.zone)
  )
    days.push(day);
  const step = Math.ceil(days.length / MOST_DAYS);
  const height = lanes.length * LANE_PX;
  const left = meeting.start - now;
  return (
    <section aria-label="How the answers came in">
      <PartHeading remark={left > 0 ? `${lengthWords(left)} to go` : undefined}>
        How the answers came in
      </PartHeading>
      <ol className="sr-only">
        {answers.map((one) => (
          <li key={one.attendeeId}>
            {one.name}: {REPLY_WORDS[one.reply]}, after {lengthWords(one.at - one.invitedAt)}
          </li>
        ))}
      </ol>
      <div aria-hidden="true" className="relative mr-4 ml-3" style={{ height: height + 26 }}>
        {placed.map((one) => (
          <span
            key={one.attendeeId}
            title={`${one.name}, ${REPLY_WORDS[one.reply]}`}
            className={`absolute grid size-6 -translate-x-1/2 place-items-center rounded-full font-head text-[10px] font-bold ${LOOKS[one.reply] ?? ''}`}
            style={{ left: `${one.x * 100}%`, top: height - (one.lane + 1) * LANE_PX }}
          >
            {initialsOf(one.name)}
          </span>
        ))}
        <div className="absolute inset-x-0 border-t border-edge" style={{ top: height }} />
        <div
          className="absolute right-0 w-0.5 bg-alpenglow"
          style={{ top: Math.max(0, height - LANE_PX), height: LANE_PX + 6 }}
        />
        {days
          .filter((day, k) => k % step === 0 && x(day) < LAST_NAMED)
          .map((day) => (
            <span
              key={day}
              className="absolute border-l border-edge pl-1 text-[11px] whitespace-nowrap text-ink-2"
              style={{ left: `${x(day) * 100}%`, top: height }}
            >
              {now - asked < 6 * DAY
                ? formatDay(day, me.zone).slice(0, 3)
                : formatDay(day, me.zone).slice(4)}
            </span>
          ))}
      </div>
    </section>
  );
}
