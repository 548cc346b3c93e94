import { useMutation } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import type { EventDetail } from '../../contract/eventDetail.ts';
import { callApi, errorText, UserError, sendFile, useChanged } from '../client/index.ts';
import { Button } from '../design/controls.tsx';

const MOST_BYTES = 10 * 1024 * 1024;

const sizeText = (bytes: number): string =>
  bytes < 1024 * 1024
    ? `${Math.max(1, Math.round(bytes / 1024))} kB`
    : `${(bytes / 1024 / 1024).toFixed(1)} MB`;

/** Sends a file of an event and tells how far it has come. @throws ApiProblem */
export const uploadAttachment = (
  eventId: string,
  file: File,
  onProgress: (share: number) => void,
) =>
  sendFile(
    'POST /api/events/:id/attachments',
    { params: { id: eventId }, query: { name: file.name } },
    file,
    onProgress,
  );

/** An event's files, to be kept on one's own device; its organizer adds and removes them. */
export function AttachmentList({
  event,
  change = false,
}: {
  event: EventDetail;
  change?: boolean;
}) {
  const changed = useChanged();
  const input = useRef<HTMLInputElement>(null);
  const [progress, setProgress] = useState<{ name: string; share: number } | null>(null);
  const refresh = () => changed('meeting');
  const add = useMutation({
    mutationFn: async (files: File[]) => {
      for (const file of files) {
        if (file.size > MOST_BYTES) throw new UserError(`${file.name} is larger than 10 MB.`);
        setProgress({ name: file.name, share: 0 });
        await uploadAttachment(event.id, file, (share) => setProgress({ name: file.name, share }));
      }
    },
    onSettled: () => {
      setProgress(null);
      if (input.current) input.current.value = '';
      void refresh();
    },
  });
  const remove = useMutation({
    mutationFn: (id: string) =>
      callApi('DELETE /api/events/:id/attachments/:attachment', {
        params: { id: event.id, attachment: id },
      }),
    onSettled: refresh,
  });
  const failure = add.error ?? remove.error;
  if (!change && event.attachments.length === 0) return null;
  return (
    <section>
      <h3 className="mb-1 text-[14px]">Attachments</h3>
      <ul className="grid gap-1">
        {event.attachments.map((file) => (
          <li key={file.id} className="flex items-center gap-2">
            <a
              className="min-w-0 truncate font-semibold text-gentian underline"
              href={`/api/events/${event.id}/attachments/${file.id}`}
              download={file.name}
            >
              {file.name}
            </a>
            <span className="shrink-0 text-ink-2">
              {sizeText(file.size)}, {file.addedBy}
            </span>
            {change && (
              <Button
                look="quiet"
                aria-label={`Remove ${file.name}`}
                disabled={remove.isPending}
                onClick={() => remove.mutate(file.id)}
              >
                Remove
              </Button>
            )}
          </li>
        ))}
      </ul>
      {progress && (
        <p role="status" className="mt-1">
          Sending {progress.name}, {Math.round(progress.share * 100)} %
          <progress className="ml-2 align-middle" value={progress.share} />
        </p>
      )}
      {failure && (
        <p role="alert" className="mt-1 font-semibold text-alpenglow">
          {errorText(failure)}
        </p>
      )}
      {change && (
        <>
          <input
            ref={input}
            type="file"
            multiple
            className="sr-only"
            aria-label="Add files"
            onChange={(e) => e.target.files?.length && add.mutate([...e.target.files])}
          />
          <Button className="mt-2" disabled={add.isPending} onClick={() => input.current?.click()}>
            Add files, up to 10 MB each
          </Button>
        </>
      )}
    </section>
  );
}
