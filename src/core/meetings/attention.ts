import type { Reply } from '../icalendar/message.ts';
import { DAY, HOUR } from '../time/interval.ts';

/** Unanswered for longer than this, somebody is silent. Milliseconds. */
export const SILENT_AFTER = 2 * DAY;
/** A meeting within this time wants its answers now. Milliseconds. */
export const SOON = DAY;
/** Whoever was asked has so long to answer before they are called silent; less where it begins sooner. */
export const TIME_TO_ANSWER = 2 * HOUR;

interface Asked {
  name: string;
  role: 'required' | 'optional';
  reply: Reply;
  /** Epoch milliseconds. */
  invitedAt: number;
  nudgedAt: number | null;
  /** How many other times they ask for. */
  proposals: number;
}

/** Why a meeting wants its organizer's attention. */
export type Attention =
  /** Who asks for another time. */
  | { kind: 'asks'; names: string[] }
  | { kind: 'declined'; names: string[] }
  /** Required people who have not answered though it is soon. */
  | { kind: 'soon'; names: string[] }
  /** Who has not answered, and since when the first of them has been asked. */
  | { kind: 'silent'; names: string[]; since: number };

/**
 * What of a meeting's answers needs its organizer, the gravest first: who asks for another time, then
 * required people who declined, then those who are silent though it is soon, then those who have been silent for two days.
 * @param start of its next date; as `now` in epoch milliseconds
 */
export function attentionTo(
  { start, replies }: { start: number; replies: readonly Asked[] },
  now: number,
): Attention[] {
  const names = (list: readonly Asked[]) => list.map((one) => one.name);
  const required = replies.filter((one) => one.role === 'required');
  const declined = required.filter((one) => one.reply === 'declined');
  const silent = replies.filter((one) => one.reply === 'needs-action');
  // Nobody is silent a moment after they were asked: a quarter of the time that there is, is theirs.
  const hadTime = ({ nudgedAt, invitedAt }: Asked) => {
    const asked = nudgedAt ?? invitedAt;
    return now - asked >= Math.min(TIME_TO_ANSWER, (start - asked) / 4);
  };
  const late =
    start - now <= SOON ? silent.filter((one) => one.role === 'required' && hadTime(one)) : [];
  const long = silent.filter(
    (one) => !late.includes(one) && now - (one.nudgedAt ?? one.invitedAt) >= SILENT_AFTER,
  );
  const asks = replies.filter((one) => one.proposals > 0);
  return [
    ...(asks.length ? [{ kind: 'asks' as const, names: names(asks) }] : []),
    ...(declined.length ? [{ kind: 'declined' as const, names: names(declined) }] : []),
    ...(late.length ? [{ kind: 'soon' as const, names: names(late) }] : []),
    ...(long.length
      ? [
          {
            kind: 'silent' as const,
            names: names(long),
            since: Math.min(...long.map((one) => one.invitedAt)),
          },
        ]
      : []),
  ];
}
