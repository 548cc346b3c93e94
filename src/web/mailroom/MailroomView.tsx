import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import type { MailroomAnswer, MailroomEntry, MailroomMessage } from '../../contract/mailroom.ts';
import { formatDay, formatTime } from '../../core/time/format.ts';
import { Failure, readApi, sendApi, useMe, useShown } from '../app/index.ts';
import { TextInput } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { Empty, Loading } from '../design/states.tsx';
import { AnswerForm, REPLY_WORDS } from '../invitations/index.ts';

/** What did the others receive? Every mail that went out, newest first, as its receiver sees it. */
export function MailroomView() {
  const { id } = useParams();
  const [recipient, setRecipient] = useState('');
  useShown(['mailroom:all']);
  const query = useQuery({
    queryKey: ['mailroom', 'list'],
    queryFn: () => readApi<{ entries: MailroomEntry[] }>('/mailroom'),
    placeholderData: keepPreviousData,
  });
  const wanted = recipient.trim().toLowerCase();
  const entries = (query.data?.entries ?? []).filter(
    (entry) =>
      entry.recipient.toLowerCase().includes(wanted) ||
      entry.subject.toLowerCase().includes(wanted),
  );
  return (
    <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] md:grid-cols-[340px_minmax(0,1fr)]">
      <section
        className={`border-edge px-4 py-5 md:border-r ${id ? 'hidden md:block' : ''}`}
        aria-labelledby="mailroom"
      >
        <h1 id="mailroom" className="text-[22px]">
          Mailroom
        </h1>
        <p className="mb-3 text-ink-2">
          Stands in for a mail server: nothing leaves this machine, and everyone in the
          demonstration can read it.
        </p>
        <TextInput
          type="search"
          aria-label="Find by receiver or subject"
          placeholder="Receiver or subject"
          value={recipient}
          onChange={(event) => setRecipient(event.target.value)}
        />
        {query.isPending && <Loading what="the mail" />}
        {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
        {query.data && entries.length === 0 && (
          <div className="mt-3">
            <Empty title="No mail here">
              Send an invitation from Plan, and what its receivers get shows up here.
            </Empty>
          </div>
        )}
        <ul className="mt-3">
          {entries.map((entry) => (
            <Entry key={entry.id} entry={entry} open={entry.id === id} />
          ))}
        </ul>
      </section>
      <section
        className={`min-w-0 px-4 py-5 md:px-6 ${id ? '' : 'hidden md:block'}`}
        aria-label="Message"
      >
        {id ? (
          <Message id={id} />
        ) : (
          <p className="text-ink-2">Choose a message to read it as its receiver would.</p>
        )}
      </section>
    </main>
  );
}

function Entry({ entry, open }: { entry: MailroomEntry; open: boolean }) {
  const me = useMe();
  return (
    <li className="border-t border-edge">
      <Link
        to={`/mailroom/${entry.id}`}
        aria-current={open ? 'page' : undefined}
        className={`block px-2 py-1.5 ${open ? 'bg-gentian-wash' : 'hover:bg-sheet'}`}
      >
        <span className="flex justify-between gap-3">
          <span className="truncate font-semibold">{entry.recipient}</span>
          <span className="shrink-0 text-xs text-ink-2">
            {formatDay(entry.receivedAt, me.zone)} {formatTime(entry.receivedAt, me.zone, me.clock)}
          </span>
        </span>
        <span className="block truncate text-ink-2">{entry.subject}</span>
      </Link>
    </li>
  );
}

function Message({ id }: { id: string }) {
  const client = useQueryClient();
  const query = useQuery({
    queryKey: ['mailroom', id],
    queryFn: () => readApi<MailroomMessage>(`/mailroom/${id}`),
  });
  if (query.isPending) return <Loading what="the message" />;
  if (query.isError) return <Failure error={query.error} retry={() => void query.refetch()} />;
  const message = query.data;
  const answer = async (reply: MailroomAnswer['reply'], note: string) => {
    await sendApi('POST', `/mailroom/${id}/answer`, { reply, note });
    tellUser(`Answered as ${message.to.name || message.recipient}: ${REPLY_WORDS[reply]}.`);
    await client.invalidateQueries({ queryKey: ['replies'] });
  };
  return (
    <article>
      <Link to="/mailroom" className="font-semibold text-gentian md:hidden">
        All mail
      </Link>
      <h2 className="text-xl leading-tight">{message.subject}</h2>
      <p className="mb-3 text-ink-2">
        From {message.from.name} ({message.from.address}) to {message.to.name} ({message.to.address}
        )
      </p>
      <iframe
        title="The letter as its receiver sees it"
        src={`/api/mailroom/${id}/letter`}
        className="h-[430px] w-full rounded-sm border border-edge bg-white"
      />
      {message.method === 'REQUEST' && (
        <section className="mt-4 max-w-lg" aria-label="Answer as the receiver">
          <h3 className="mb-2 text-[15px]">
            Answer by mail, as {message.to.name || message.recipient} would
          </h3>
          <AnswerForm present="needs-action" toWhom={message.from.name} send={answer} />
        </section>
      )}
      {message.calendar && (
        <details className="mt-4">
          <summary className="cursor-pointer font-semibold">
            Calendar part, {message.method}
          </summary>
          <pre
            className="mt-2 overflow-x-auto rounded-sm border border-edge bg-sheet p-3 text-xs"
            tabIndex={0}
          >
            {message.calendar}
          </pre>
        </details>
      )}
      <a
        className="mt-3 inline-block font-semibold text-gentian hover:underline"
        href={`/api/mailroom/${id}/source`}
        target="_blank"
        rel="noreferrer"
      >
        The whole message as it was sent
      </a>
    </article>
  );
}
