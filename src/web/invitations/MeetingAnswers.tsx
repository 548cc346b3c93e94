import { useMutation } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import type { NudgeRequest, ResendRequest } from '../../contract/asking.ts';
import type { MeetingReplies } from '../../contract/invitations.ts';
import { isRested } from '../../core/meetings/nudge.ts';
import { formatDay, formatSpan } from '../../core/time/format.ts';
import { HOUR } from '../../core/time/interval.ts';
import { callApi, errorText, useChanged, useMe, useNow } from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { Initials } from '../design/Initials.tsx';
import { tellUser } from '../design/notices.ts';
import { planPath } from '../lineUp/index.ts';
import { AnswersInTime } from './AnswersInTime.tsx';
import { lengthWords } from './attentionWords.ts';
import { EveryAnswer } from './EveryAnswer.tsx';
import { AnswersAside } from './AnswersAside.tsx';
import { AnswersByMail } from './CameByMail.tsx';
import { OtherTimesAsked } from './OtherTimesAsked.tsx';
import { StandIns } from './StandIns.tsx';
import { REPLY_WORDS, ReplyMark, Undelivered } from './replyWords.tsx';

type Asked = MeetingReplies['replies'][number];

const LINK = 'font-semibold text-gentian hover:underline max-sm:py-3';

/** One meeting of mine: who comes, who does not, who is silent, and what to do about it. */
export function MeetingAnswers({ meeting }: { meeting: MeetingReplies }) {
  const me = useMe();
  const now = useNow();
  const nudge = useNudge(meeting);
  const of = (...replies: Asked['reply'][]) =>
    meeting.replies.filter((one) => replies.includes(one.reply));
  const [coming, notComing, silent] = [
    of('accepted', 'tentative'),
    of('declined'),
    of('needs-action'),
  ];
  const rested = silent.filter((one) => isRested(one, now));
  const required = meeting.replies.filter((one) => one.role === 'required').length;
  const requiredComing = coming.filter((one) => one.role === 'required').length;
  const first = Math.min(...silent.map((one) => one.invitedAt));
  return (
    <article
      aria-labelledby="meeting"
      className="grid grid-cols-[minmax(0,1fr)] content-start gap-6"
    >
      <header className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h2 id="meeting" className="text-[26px] leading-tight max-sm:text-[20px]">
          {meeting.title}
        </h2>
        <p className="mr-auto text-ink-2">
          {formatSpan(meeting, me.zone, me.clock)}
          {meeting.recurring ? ', the next of a series' : ''}
        </p>
        <span className="flex flex-wrap items-center gap-x-4 gap-y-1">
          <Link className={LINK} to={`/invitations/${meeting.id}`}>
            Open
          </Link>
          <Link className={LINK} to={`/events/${meeting.id}`}>
            Change
          </Link>
          {!meeting.recurring && (
            <Link
              className={LINK}
              to={planPath({ eventId: meeting.id })}
              aria-label={`Another time for ${meeting.title}`}
            >
              Another time
            </Link>
          )}
          {silent.length > 0 && (
            <Button
              disabled={rested.length === 0 || nudge.isPending}
              onClick={() => nudge.mutate('all')}
            >
              {rested.length === 0 ? 'All reminded today' : `Nudge ${rested.length}`}
            </Button>
          )}
        </span>
      </header>
      <div className="grid gap-6 lg:grid-cols-3 lg:gap-4">
        <Column
          name="Coming"
          remark={required > 0 ? `${requiredComing} of ${required} required` : ''}
        >
          {coming.map((one) => (
            <Person key={one.attendeeId} meetingId={meeting.id} one={one} remark={afterWords(one)}>
              {one.reply === 'tentative' && 'perhaps'}
            </Person>
          ))}
        </Column>
        <Column name="Not coming" remark={notComing.length ? String(notComing.length) : ''}>
          {notComing.map((one) => (
            <Person
              key={one.attendeeId}
              meetingId={meeting.id}
              one={one}
              remark={afterWords(one)}
              below={
                one.role === 'required' &&
                one.personId !== null && (
                  <StandIns meeting={meeting} absent={{ personId: one.personId, name: one.name }} />
                )
              }
            />
          ))}
        </Column>
        <Column
          name="Silent"
          grave={silent.length > 0}
          remark={silent.length ? silentWords(silent.length, now - first) : ''}
        >
          {silent.map((one) => (
            <Person
              key={one.attendeeId}
              meetingId={meeting.id}
              one={one}
              remark={
                one.proposals > 0
                  ? 'asks for another time'
                  : one.nudgedAt !== null
                    ? `nudged ${agoWords(now - one.nudgedAt)}`
                    : `asked ${agoWords(now - one.invitedAt)}`
              }
              act={
                isRested(one, now) && (
                  <button
                    type="button"
                    className="reach min-h-6 text-xs font-semibold text-gentian hover:underline"
                    disabled={nudge.isPending}
                    aria-label={`Nudge ${one.name}`}
                    onClick={() => nudge.mutate([one.attendeeId])}
                  >
                    nudge
                  </button>
                )
              }
            />
          ))}
        </Column>
      </div>
      {meeting.dates.length > 0 && <SingleDates meeting={meeting} />}
      {meeting.aside > 0 && <AnswersAside meetingId={meeting.id} />}
      {meeting.replies.some((one) => one.proposals > 0) && <OtherTimesAsked meeting={meeting} />}
      <AnswersInTime meeting={meeting} />
      <EveryAnswer meetingId={meeting.id} />
      <AnswersByMail meetingId={meeting.id} />
    </article>
  );
}

function useNudge(meeting: MeetingReplies) {
  const changed = useChanged();
  return useMutation({
    mutationFn: (attendees: NudgeRequest['attendees']) =>
      callApi('POST /api/events/:id/nudge', {
        params: { id: meeting.id },
        body: {
          attendees,
        } satisfies NudgeRequest,
      }),
    onSuccess: (_, attendees) => {
      const named = meeting.replies.find((one) => one.attendeeId === attendees[0]);
      tellUser(
        attendees === 'all'
          ? `Those who are silent about “${meeting.title}” are reminded.`
          : `${named?.name ?? 'They'} is reminded of “${meeting.title}”.`,
      );
    },
    onError: (error) => tellUser(errorText(error)),
    onSettled: () => changed('meeting'),
  });
}

function Column({
  name,
  remark,
  grave = false,
  children,
}: {
  name: string;
  remark: string;
  grave?: boolean;
  children: ReactNode[];
}) {
  return (
    <section aria-label={name}>
      <div className="mb-1 flex items-baseline justify-between border-b border-edge pb-1.5">
        <h3 className="text-[15px]">{name}</h3>
        <span className={`text-[13px] font-semibold ${grave ? 'text-alpenglow' : 'text-ink-2'}`}>
          {remark}
        </span>
      </div>
      {children.length === 0 ? <p className="py-1 text-ink-2">nobody</p> : <ul>{children}</ul>}
    </section>
  );
}

function Person({
  meetingId,
  one,
  remark,
  act,
  below,
  children,
}: {
  meetingId: string;
  one: Asked;
  remark: string;
  act?: ReactNode;
  /** Under it, over its whole width. */
  below?: ReactNode;
  children?: ReactNode;
}) {
  const sendAgain = async () => {
    try {
      await callApi('POST /api/events/:id/resend', {
        params: { id: meetingId },
        body: {
          attendees: [one.attendeeId],
        } satisfies ResendRequest,
      });
      tellUser(`The invitation to ${one.name} is sent again.`);
    } catch (error) {
      tellUser(errorText(error));
    }
  };
  return (
    <li className="grid grid-cols-[auto_minmax(0,1fr)_auto] items-baseline gap-x-2 py-1">
      <span className="translate-y-[5px] self-start -mt-1">
        <Initials name={one.name} />
      </span>
      <span>
        <span className="font-medium">{one.name}</span>{' '}
        <span className="text-xs text-ink-2">
          {one.role === 'optional' && 'optional '}
          {children}
        </span>
        {one.note && <span className="block text-xs text-ink-2">“{one.note}”</span>}
        {one.automatic && (
          <span className="block text-xs text-ink-2">answered by itself: “{one.automatic}”</span>
        )}
        {one.undelivered && (
          <>
            <Undelivered reason={one.undelivered} />{' '}
            <button
              type="button"
              className="reach text-xs font-semibold text-gentian hover:underline"
              onClick={() => void sendAgain()}
            >
              send it again
            </button>
          </>
        )}
      </span>
      <span className="flex items-baseline gap-2 text-xs text-ink-2">
        {remark}
        {act}
      </span>
      {below && <div className="col-span-3">{below}</div>}
    </li>
  );
}

/** Who answered otherwise to single dates of a series. */
function SingleDates({ meeting }: { meeting: MeetingReplies }) {
  const me = useMe();
  return (
    <section aria-label="Different on single dates">
      <h3 className="mb-1 text-[15px]">Different on single dates</h3>
      <ul className="grid gap-x-4 sm:grid-cols-2 lg:grid-cols-3">
        {meeting.dates.map((one) => (
          <li key={`${one.attendeeId} ${one.occurrence}`} className="flex gap-2 py-1">
            <span className="pt-1">
              <ReplyMark reply={one.reply} />
            </span>
            <span>
              <span className="font-medium">{one.name}</span>,{' '}
              <Link
                className="reach text-gentian underline"
                to={`/invitations/${meeting.id}?occurrence=${one.occurrence}`}
              >
                {formatDay(one.start, me.zone)}
              </Link>
              <span className="block text-xs text-ink-2">
                {REPLY_WORDS[one.reply]}
                {one.note ? `: “${one.note}”` : ''}
              </span>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

const afterWords = (one: Asked): string =>
  one.repliedAt === null
    ? ''
    : one.repliedAt - one.invitedAt < HOUR
      ? 'at once'
      : `after ${lengthWords(one.repliedAt - one.invitedAt)}`;

const silentWords = (count: number, milliseconds: number): string =>
  milliseconds < HOUR ? String(count) : `${count}, for ${lengthWords(milliseconds)}`;

const agoWords = (milliseconds: number): string =>
  milliseconds < HOUR ? 'just now' : `${lengthWords(milliseconds)} ago`;
