import { useMutation } from '@tanstack/react-query';
import { useRef } from 'react';
import type { Place } from '../../contract/places.ts';
import { callApi, errorText, may, sendFile, useChanged, useMe } from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';

/** How a place looks; those who look after it put another picture there. */
export function PlacePicture({ place }: { place: Place }) {
  const me = useMe();
  const keeps = may(me, 'look-after', place.id);
  if (place.photo === null && !keeps) return null;
  return (
    <figure className="grid gap-1">
      {place.photo !== null && (
        <img
          src={`/api/places/${place.id}/photo?v=${place.photo}`}
          alt={`How ${place.name} looks`}
          width={480}
          height={240}
          className="h-28 w-full rounded-sm border border-edge bg-sheet object-cover"
        />
      )}
      {keeps && <ChangePicture place={place} />}
    </figure>
  );
}

function ChangePicture({ place }: { place: Place }) {
  const changed = useChanged();
  const input = useRef<HTMLInputElement>(null);
  const settle = {
    onError: (error: unknown) => tellUser(errorText(error)),
    onSettled: () => changed('resource'),
  };
  const send = useMutation({
    mutationFn: (file: File) =>
      sendFile('POST /api/places/:id/photo', { params: { id: place.id } }, file),
    ...settle,
  });
  const remove = useMutation({
    mutationFn: () => callApi('DELETE /api/places/:id/photo', { params: { id: place.id } }),
    ...settle,
  });
  return (
    <figcaption className="flex gap-2">
      <input
        ref={input}
        type="file"
        accept="image/png,image/jpeg,image/webp"
        aria-label={`A picture of ${place.name}`}
        className="sr-only"
        tabIndex={-1}
        onChange={({ target }) => {
          const file = target.files?.[0];
          if (file) send.mutate(file);
          target.value = '';
        }}
      />
      <Button
        look="quiet"
        className="px-0"
        disabled={send.isPending}
        onClick={() => input.current?.click()}
      >
        {send.isPending
          ? 'Sending it …'
          : place.photo === null
            ? 'Add a picture'
            : 'Another picture'}
      </Button>
      {place.photo !== null && (
        <Button look="quiet" disabled={remove.isPending} onClick={() => remove.mutate()}>
          Leave it out
        </Button>
      )}
    </figcaption>
  );
}
