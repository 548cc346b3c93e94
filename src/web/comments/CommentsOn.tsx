import { Suspense } from 'react';
import type { EventDetail } from '../../contract/eventDetail.ts';
import { lazily } from '../design/fetched.ts';
import { Outline } from '../design/states.tsx';

const Comments = lazily(async () => (await import('./Comments.tsx')).Comments);

/** What is said about a meeting with others, for those who take part; fetched when it is shown. */
export function CommentsOn({
  event,
}: {
  event: Pick<EventDetail, 'id' | 'draft' | 'myReply' | 'canChange' | 'attendees'>;
}) {
  const { myReply, canChange, attendees, draft } = event;
  if (draft || attendees.length < 2 || (!myReply && !canChange)) return null;
  return (
    <Suspense fallback={<Outline what="the comments" rows={2} />}>
      <Comments eventId={event.id} />
    </Suspense>
  );
}
