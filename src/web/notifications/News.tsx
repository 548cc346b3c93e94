import { Popover } from 'radix-ui';
import { Link } from 'react-router';
import type { WaitingInvitation } from '../../contract/invitations.ts';
import type { Notification } from '../../contract/notifications.ts';
import { grouped } from '../../core/grouped.ts';
import { noticeWords } from '../../core/meetings/noticeWords.ts';
import { formatDay, formatSpan, formatTime } from '../../core/time/format.ts';
import { useMe, useNow } from '../client/index.ts';
import { AnswerButtons, FitWords, invitationAddress, useNews } from '../invitations/index.ts';

/** Of one meeting so much is told; of more only how much. */
const MOST_LINES = 4;

/** What is told of one meeting, the latest first. */
interface Group {
  eventId: string;
  items: Notification[];
  unread: boolean;
}

/** What is new for me by meeting, the latest first; then invitations that wait, and what I have read. */
export function NewsList({ notifications }: { notifications: readonly Notification[] }) {
  const { data } = useNews();
  const waiting = data?.waiting ?? [];
  // Invitations stand with the buttons to answer them, and nowhere once they are answered.
  const groups = groupsOf(notifications.filter((one) => one.kind !== 'invitations'));
  const unread = groups.filter((one) => one.unread);
  const known = groups.filter((one) => !one.unread);
  return (
    <>
      <h2 className="mb-1 text-[15px]">What is new</h2>
      {waiting.length + groups.length === 0 && (
        <p className="py-2 text-ink-2">
          Nothing is. Invitations, changes, answers and what is said about your meetings show up
          here.
        </p>
      )}
      <ul>
        {unread.map((one) => (
          <OneMeeting key={one.eventId} group={one} />
        ))}
        {waiting.map((one) => (
          <Waiting key={`${one.eventId} ${one.occurrence} ${one.for?.id}`} invitation={one} />
        ))}
        {known.map((one) => (
          <OneMeeting key={one.eventId} group={one} />
        ))}
      </ul>
      <p className="border-t border-edge pt-2">
        <Popover.Close asChild>
          <Link className="font-semibold text-gentian" to="/preferences#hearing">
            Choose what you hear of
          </Link>
        </Popover.Close>
      </p>
    </>
  );
}

function groupsOf(notifications: readonly Notification[]): Group[] {
  return [...grouped(notifications, (one) => one.eventId)].map(([eventId, items]) => ({
    eventId,
    items,
    unread: items.some((one) => !one.isRead),
  }));
}

function Waiting({ invitation: one }: { invitation: WaitingInvitation }) {
  const me = useMe();
  return (
    <li className="grid gap-1.5 border-t border-edge py-2">
      <Popover.Close asChild>
        <Link to={invitationAddress(one)} className="hover:underline">
          <span className="text-ink-2">
            {one.organizer} invites {one.for ? one.for.name : 'you'}:{' '}
          </span>
          <b className="font-semibold">{one.title}</b>, {formatSpan(one, me.zone, me.clock)}
          {one.recurring && (one.occurrence ? ', this date alone' : ', and all further dates')}
          <FitWords invitation={one} />
        </Link>
      </Popover.Close>
      <AnswerButtons
        asked={{
          eventId: one.eventId,
          occurrence: one.occurrence,
          organizer: one.organizer,
          for: one.for,
          ...(one.recurring && { covers: one.occurrence ? 'one' : 'all' }),
        }}
        about={one.title}
      />
    </li>
  );
}

function OneMeeting({ group: { items, unread } }: { group: Group }) {
  const me = useMe();
  const now = useNow();
  const latest = items[0]!;
  const title = (
    <>
      {unread && (
        <>
          <i className="mr-1.5 inline-block size-2 rounded-full bg-alpenglow" aria-hidden="true" />
          <span className="sr-only">New: </span>
        </>
      )}
      <b className="font-semibold">{latest.title}</b>, {formatSpan(latest, me.zone, me.clock)}
    </>
  );
  const address = addressOf(latest);
  const more = items.length - MOST_LINES;
  return (
    <li className="border-t border-edge py-2">
      {address ? (
        <Popover.Close asChild>
          <Link to={address} className="hover:underline">
            {title}
          </Link>
        </Popover.Close>
      ) : (
        title
      )}
      <ul className="text-ink-2">
        {items.slice(0, MOST_LINES).map((one) => (
          <li key={one.id}>
            <span className="text-ink">
              {one.for && `For ${one.for}: `}
              {one.by} {noticeWords(one)}
            </span>
            {one.words && ` “${one.words}”`}, {whenWords(one.at, now, me.zone, me.clock)}
          </li>
        ))}
        {more > 0 && <li>and {more} more</li>}
      </ul>
    </li>
  );
}

/** Where it is looked at; nowhere once it is over for me. */
function addressOf({ what, kind, eventId, occurrence }: Notification): string | null {
  if (what === 'uninvited' || what === 'cancelled') return null;
  if (kind === 'answers' || kind === 'other-times') return `/replies?meeting=${eventId}`;
  if (what === 'place-asked') return '/';
  if (what === 'no-show-soon' || what === 'place-offered') return '/';
  const query = occurrence ? `?occurrence=${occurrence}` : '';
  return kind === 'comments' || kind === 'mentions'
    ? `/events/${eventId}${query}#comments`
    : `/invitations/${eventId}${query}`;
}

const whenWords = (at: number, now: number, zone: string, clock: '24' | '12'): string => {
  const day = formatDay(at, zone);
  return day === formatDay(now, zone)
    ? formatTime(at, zone, clock)
    : `${day} ${formatTime(at, zone, clock)}`;
};
