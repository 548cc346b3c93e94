import { Link } from 'react-router';
import type { WaitingInvitation } from '../../contract/invitations.ts';
import { formatSpan } from '../../core/time/format.ts';
import { Failure, useMe } from '../client/index.ts';
import { PartHeading } from '../design/controls.tsx';
import { Empty, Outline } from '../design/states.tsx';
import { AnswerButtons, FitWords, invitationAddress, useNews } from '../invitations/index.ts';

/** Invitations without my answer: what collides is named, and the answer is one click. */
export function NeedsYou() {
  const query = useNews();
  const waiting = query.data?.waiting ?? [];
  return (
    <section aria-labelledby="needs-you">
      <PartHeading remark={waiting.length > 0 ? `${waiting.length}, soonest first` : undefined}>
        <span id="needs-you">Waits for your answer</span>
      </PartHeading>
      {query.isPending && <Outline what="invitations" rows={3} />}
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      {query.data && waiting.length === 0 && (
        <Empty title="You have answered everything">
          Invitations you have not answered show up here.
        </Empty>
      )}
      <ul>
        {waiting.map((one) => (
          <li
            key={`${one.eventId} ${one.occurrence} ${one.for?.id}`}
            className="grid gap-1.5 border-t border-edge py-2.5"
          >
            <Row one={one} />
          </li>
        ))}
      </ul>
    </section>
  );
}

function Row({ one }: { one: WaitingInvitation }) {
  const me = useMe();
  const covers = one.occurrence
    ? 'asked for this date of the series alone'
    : one.recurring
      ? 'asked for all dates of the series; this is the next'
      : '';
  return (
    <>
      <div>
        <Link to={invitationAddress(one)} className="reach font-semibold hover:underline">
          {one.title}
        </Link>
        <span>
          , {formatSpan(one, me.zone, me.clock)}, from {one.organizer}
          {one.for && <b className="font-semibold">, for {one.for.name}</b>}
        </span>
        <span className="block text-ink-2">
          {[covers, one.role === 'optional' && `${one.for ? 'they' : 'you'} are optional`]
            .filter(Boolean)
            .join(' · ')}
        </span>
        <FitWords invitation={one} />
      </div>
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
    </>
  );
}
