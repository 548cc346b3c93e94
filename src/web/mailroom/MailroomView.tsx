import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { Link, useParams } from 'react-router';
import type { MailroomAnswer, MailroomEntry, MailroomList } from '../../contract/mailroom.ts';
import { formatDay, formatTime } from '../../core/time/format.ts';
import {
  callApi,
  answerTo,
  Failure,
  useChanged,
  useMe,
  usePages,
  useShown,
} from '../client/index.ts';
import { TextInput } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { Empty, Loading, Outline } from '../design/states.tsx';
import { OneOf } from '../design/Toggles.tsx';
import { VirtualRows } from '../design/VirtualRows.tsx';
import { AskInstead } from './AskInstead.tsx';
import { DropMail } from './DropMail.tsx';
import { AnswerForm, REPLY_WORDS } from '../invitations/index.ts';

const entriesOf = (part: MailroomList) => part.entries;
const keyOf = (entry: MailroomEntry) => entry.id;

/** What did the others receive? Every mail that went out, newest first, as its receiver sees it. */
export function MailroomView() {
  const { id } = useParams();
  const [text, setText] = useState('');
  const asked = useDeferredValue(text.trim());
  useShown(['mailroom:all']);
  const { query, first, rows, more } = usePages(
    'GET /api/mailroom',
    asked ? { q: asked } : {},
    entriesOf,
  );
  return (
    <main
      className={`grid flex-1 grid-cols-[minmax(0,1fr)] ${id ? 'md:grid-cols-[340px_minmax(0,1fr)]' : ''}`}
    >
      <section
        className={`border-edge px-4 py-5 max-sm:py-2 md:px-6 ${id ? 'hidden md:block md:border-r' : 'mx-auto w-full max-w-6xl'}`}
        aria-labelledby="mailroom"
      >
        <div className={id ? '' : 'flex flex-wrap items-end justify-between gap-x-6 gap-y-2'}>
          <div>
            <h1 id="mailroom" className="text-[22px] max-sm:text-[20px]">
              Mailroom{' '}
              <span className="text-base font-normal text-ink-2">{first && first.total}</span>
            </h1>
            <p className="mb-2 max-w-xl text-ink-2">
              Stands in for a mail server: nothing leaves this machine, and everyone in the
              demonstration can read it.
            </p>
          </div>
          <div className={id ? '' : 'flex flex-wrap gap-x-3'}>
            {!id && <DropMail />}
            <TextInput
              type="search"
              aria-label="Find by receiver or subject"
              placeholder="Receiver or subject"
              className={id ? 'w-full' : 'mb-2 w-72 max-w-full'}
              maxLength={254}
              value={text}
              onChange={(event) => setText(event.target.value)}
            />
          </div>
        </div>
        {query.isPending && <Outline what="the mail" rows={8} />}
        {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
        {first && rows.length === 0 && (
          <div className="mt-3">
            <Empty title={asked ? `No letter holds “${asked}”` : 'No mail here'}>
              {asked
                ? 'Try a part of an address or of a subject.'
                : 'Send an invitation from Plan, and what its receivers get shows up here.'}
            </Empty>
          </div>
        )}
        {first && rows.length > 0 && (
          <VirtualRows
            key={id ? 'narrow' : 'wide'}
            label="Letters"
            rows={rows}
            keyOf={keyOf}
            total={first.total}
            rowPx={id ? [53, 53] : [37, 53]}
            onNeedMore={more}
          >
            {(entry) => <Entry entry={entry} open={entry.id === id} wide={!id} />}
          </VirtualRows>
        )}
      </section>
      {id && (
        <section
          className="min-w-0 px-4 py-5 md:sticky md:top-0 md:max-h-[calc(100dvh-3.4rem)] md:self-start md:overflow-y-auto md:px-6"
          aria-label="Message"
        >
          <Message id={id} />
        </section>
      )}
    </main>
  );
}

function Entry({ entry, open, wide }: { entry: MailroomEntry; open: boolean; wide: boolean }) {
  const me = useMe();
  return (
    <Link
      to={`/mailroom/${entry.id}`}
      aria-current={open ? 'page' : undefined}
      className={`grid grid-cols-[minmax(0,1fr)_auto] gap-x-3 border-t border-edge px-2 py-1.5 ${wide ? 'sm:grid-cols-[minmax(0,1fr)_minmax(0,2fr)_auto] sm:py-2' : ''} ${open ? 'bg-gentian-wash' : 'hover:bg-sheet'}`}
    >
      <span className="truncate font-semibold">{entry.recipient}</span>
      <span className={`text-xs leading-5 text-ink-2 ${wide ? 'sm:order-last' : ''}`}>
        {formatDay(entry.receivedAt, me.zone)} {formatTime(entry.receivedAt, me.zone, me.clock)}
      </span>
      <span className={`truncate text-ink-2 max-sm:col-span-2 ${wide ? '' : 'col-span-2'}`}>
        {entry.subject}
      </span>
    </Link>
  );
}

type Part = 'page' | 'text' | 'calendar';
const PARTS: { value: Part; words: string }[] = [
  { value: 'page', words: 'As a page' },
  { value: 'text', words: 'As text' },
  { value: 'calendar', words: 'Its calendar part' },
];

function Message({ id }: { id: string }) {
  const changed = useChanged();
  const [part, setPart] = useState<Part>('page');
  const query = useQuery(answerTo('GET /api/mailroom/:id', { params: { id } }));
  if (query.isPending) return <Loading what="the message" />;
  if (query.isError) return <Failure error={query.error} retry={() => void query.refetch()} />;
  const message = query.data;
  const answer = async (reply: MailroomAnswer['reply'], note: string) => {
    await callApi('POST /api/mailroom/:id/answer', { params: { id }, body: { reply, note } });
    tellUser(`Answered as ${message.to.name || message.recipient}: ${REPLY_WORDS[reply]}.`);
    await changed('meeting');
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
      <OneOf
        label="The letter"
        value={part}
        onChange={setPart}
        look="ways"
        className="mb-2"
        options={PARTS.filter(({ value }) => value !== 'calendar' || message.calendar !== null)}
      />
      {part === 'page' ? (
        <iframe
          title="The letter as its receiver sees it"
          src={`/api/mailroom/${id}/letter`}
          className="h-[470px] w-full rounded-sm border border-edge bg-white"
        />
      ) : (
        <pre
          className="h-[470px] overflow-auto rounded-sm border border-edge bg-sheet p-3 text-xs"
          tabIndex={0}
          aria-label={part === 'text' ? 'The letter as text' : 'Its calendar part'}
        >
          {part === 'text' ? message.text : message.calendar}
        </pre>
      )}
      {message.method === 'REQUEST' && (
        <section className="mt-4 max-w-lg" aria-label="Answer as the receiver">
          <h3 className="mb-2 text-[15px]">
            Answer by mail, as {message.to.name || message.recipient} would
          </h3>
          <AnswerForm about={id} present="needs-action" toWhom={message.from.name} send={answer} />
          <AskInstead message={message} />
        </section>
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
