import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { Comment, CommentRequest, CommentsResponse } from '../../contract/comments.ts';
import { formatDay, formatTime } from '../../core/time/format.ts';
import {
  callApi,
  answerTo,
  errorText,
  Failure,
  offerUndo,
  useKeptText,
  useMe,
} from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { Initials } from '../design/Initials.tsx';
import { tellUser } from '../design/notices.ts';
import { Outline } from '../design/states.tsx';
import { CommentField } from './CommentField.tsx';
import { mentionsIn, partsOf } from './mentions.ts';

/** What is said about a meeting: who reads it is stated, whoever is spoken to hears of it. */
export function Comments({ eventId }: { eventId: string }) {
  const client = useQueryClient();
  const said = answerTo('GET /api/events/:id/comments', { params: { id: eventId } });
  const query = useQuery(said);
  const kept = (now: CommentsResponse) => client.setQueryData(said.queryKey, now);
  return (
    <section id="comments" aria-labelledby={`comments-${eventId}`} className="grid gap-3">
      <h3 id={`comments-${eventId}`} className="text-[15px]">
        Comments
      </h3>
      {query.isPending && <Outline what="the comments" rows={2} />}
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      {query.data && (
        <>
          {query.data.comments.length > 0 && (
            <ul className="grid gap-3" aria-live="polite">
              {query.data.comments.map((one) => (
                <OneComment key={one.id} eventId={eventId} comment={one} onChanged={kept} />
              ))}
            </ul>
          )}
          <NewComment eventId={eventId} talk={query.data} onSaid={kept} />
        </>
      )}
    </section>
  );
}

function NewComment({
  eventId,
  talk: { readBy, organizer, people },
  onSaid,
}: {
  eventId: string;
  talk: CommentsResponse;
  onSaid: (now: CommentsResponse) => void;
}) {
  const [words, setWords, wordsSent] = useKeptText(`comment ${eventId}`);
  const say = useMutation({
    mutationFn: () =>
      callApi('POST /api/events/:id/comments', {
        params: { id: eventId },
        body: {
          words,
          mentions: mentionsIn(words, people).map((one) => one.id),
        } satisfies CommentRequest,
      }),
    onSuccess: (now) => {
      setWords('');
      wordsSent();
      onSaid(now);
    },
  });
  const whoReads =
    readBy === 'organizer'
      ? `Only ${organizer} reads what you write here.`
      : people.length === 0
        ? 'Nobody else takes part yet.'
        : 'Everybody here who takes part reads it; people outside do not.';
  return (
    <form
      className="grid gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (words.trim() && !say.isPending) say.mutate();
      }}
    >
      <CommentField
        label="Say something about it"
        words={words}
        people={people}
        onChange={setWords}
      />
      {say.isError && (
        <p role="alert" className="font-semibold text-alpenglow">
          {errorText(say.error)}
        </p>
      )}
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <Button type="submit" disabled={!words.trim() || say.isPending}>
          {say.isPending ? 'Saying it …' : 'Say it'}
        </Button>
        <span className="text-xs text-ink-2">
          {whoReads}
          {people.length > 0 && ' “@” and a name speaks to somebody.'}
        </span>
      </div>
    </form>
  );
}

function OneComment({
  eventId,
  comment,
  onChanged,
}: {
  eventId: string;
  comment: Comment;
  onChanged: (now: CommentsResponse) => void;
}) {
  const me = useMe();
  const [editing, setEditing] = useState(false);
  const params = { id: eventId, comment: comment.id };
  const onError = (error: unknown) => tellUser(errorText(error));
  const remove = useMutation({
    mutationFn: () => callApi('DELETE /api/events/:id/comments/:comment', { params }),
    onSuccess: (now) => {
      onChanged(now);
      offerUndo('The comment is removed.', async () => {
        await callApi('POST /api/events/:id/comments/:comment/restore', { params }).then(
          onChanged,
          onError,
        );
      });
    },
    onError,
  });
  const { author, at, changedAt, words, mentions, canChange, canRemove } = comment;
  return (
    <li className="grid grid-cols-[auto_minmax(0,1fr)] gap-x-2">
      <Initials name={author} />
      <div>
        <p className="text-xs text-ink-2">
          <b className="font-semibold text-ink">{author}</b>, {formatDay(at, me.zone)}{' '}
          {formatTime(at, me.zone, me.clock)}
          {changedAt !== null && ', changed since'}
        </p>
        {editing ? (
          <Rewriting
            params={params}
            words={words}
            onDone={(now) => {
              if (now) onChanged(now);
              setEditing(false);
            }}
          />
        ) : (
          <p className="break-words whitespace-pre-wrap">
            {partsOf(words, mentions).map((part, k) =>
              part.isMention ? (
                <b key={k} className="font-semibold text-gentian">
                  {part.text}
                </b>
              ) : (
                part.text
              ),
            )}
          </p>
        )}
        {!editing && (canChange || canRemove) && (
          <p className="-ml-2.5 flex text-xs">
            {canChange && (
              <Button look="quiet" onClick={() => setEditing(true)}>
                Change
              </Button>
            )}
            {canRemove && (
              <Button look="quiet" disabled={remove.isPending} onClick={() => remove.mutate()}>
                Remove
              </Button>
            )}
          </p>
        )}
      </div>
    </li>
  );
}

function Rewriting({
  params,
  words: before,
  onDone,
}: {
  params: { id: string; comment: number };
  words: string;
  onDone: (now: CommentsResponse | null) => void;
}) {
  const [words, setWords] = useState(before);
  const save = useMutation({
    mutationFn: () =>
      callApi('PATCH /api/events/:id/comments/:comment', { params, body: { words } }),
    onSuccess: onDone,
  });
  return (
    <form
      className="grid gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}
    >
      <CommentField label="Your comment" words={words} people={[]} onChange={setWords} autoFocus />
      {save.isError && (
        <p role="alert" className="font-semibold text-alpenglow">
          {errorText(save.error)}
        </p>
      )}
      <div className="flex gap-2">
        <Button type="submit" disabled={!words.trim() || save.isPending}>
          Save
        </Button>
        <Button look="quiet" onClick={() => onDone(null)}>
          Leave it as it was
        </Button>
      </div>
    </form>
  );
}
