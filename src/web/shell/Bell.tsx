import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Bell as BellSign } from 'lucide-react';
import { Popover } from 'radix-ui';
import { Suspense } from 'react';
import type { ReadNotificationsRequest } from '../../contract/notifications.ts';
import { IconButton } from '../design/controls.tsx';
import { lazily } from '../design/fetched.ts';
import { Guard } from '../design/Guard.tsx';
import { callApi, answerTo } from '../client/index.ts';

const NOTIFICATIONS = answerTo('GET /api/notifications');

const News = lazily(async () => (await import('../notifications/index.ts')).NewsList);

/** How much is new for me, and what it is; once I have looked it is read, on every device. */
export function Bell() {
  const client = useQueryClient();
  const { data } = useQuery(NOTIFICATIONS);
  const { notifications, unread } = data ?? { notifications: [], unread: 0 };
  const { mutate: read } = useMutation({
    mutationFn: (upTo: number) =>
      callApi('POST /api/notifications/read', {
        body: {
          upTo,
        } satisfies ReadNotificationsRequest,
      }),
    onSuccess: (now) => client.setQueryData(NOTIFICATIONS.queryKey, now),
  });
  const latest = notifications[0];
  return (
    <Popover.Root onOpenChange={(open) => !open && latest && unread > 0 && read(latest.id)}>
      <Popover.Trigger asChild>
        <IconButton
          className="relative"
          label={unread > 0 ? `What is new: ${unread}` : 'What is new'}
        >
          <BellSign size={20} aria-hidden="true" />
          {unread > 0 && (
            <span
              aria-hidden="true"
              className="absolute top-0 right-0 grid h-4.5 min-w-4.5 place-items-center rounded-full bg-alpenglow px-1 text-[11px] leading-none font-bold text-paper"
            >
              {unread > 99 ? '99+' : unread}
            </span>
          )}
        </IconButton>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          aria-label="What is new"
          className="z-40 grid max-h-[70dvh] w-[min(400px,94vw)] content-start overflow-y-auto rounded-sm border border-edge bg-sheet px-4 py-3 shadow-lg"
        >
          <Guard what="what is new">
            <Suspense fallback={<p role="status">Reading what is new …</p>}>
              <News notifications={notifications} />
            </Suspense>
          </Guard>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
