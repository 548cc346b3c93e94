import { RESOURCE_KINDS, type ResourceKind } from '../../contract/resourceKind.ts';
import { zodResolver } from '@hookform/resolvers/zod';
import type { Resolver } from 'react-hook-form';
import {
  newPlaceRequest,
  type CatalogueChoices,
  type NewPlaceRequest,
  type PlacePreview,
} from '../../contract/catalogue.ts';
import { type Place } from '../../contract/places.ts';
import { NO_RULES, type PlaceRules } from '../../core/booking/rules.ts';
import { counted } from '../../core/counted.ts';
import { formatSpan } from '../../core/time/format.ts';
import { Failure, useMe } from '../client/index.ts';
import { AmountField } from '../design/AmountField.tsx';
import { Button, Field, PartHeading, TextArea, TextInput } from '../design/controls.tsx';
import { Select } from '../design/Select.tsx';
import { focusInvalid, GoOn, useKeptForm } from '../forms/index.ts';
import { LengthField } from '../time/index.ts';
import { RuleFields, type Rules } from './RuleFields.tsx';
import { usePlacePreview, useSavePlace } from './useCatalogue.ts';

/** What one of a kind is called. */
const ONE_OF: Record<ResourceKind, string> = {
  room: 'Room',
  lab: 'Lab',
  desk: 'Desk',
  equipment: 'Equipment',
  vehicle: 'Vehicle',
  parking: 'Parking space',
};

/** A place as its form holds it: features as they are typed. */
type Content = Omit<NewPlaceRequest, 'features'> & { features: string };

const featuresIn = (text: string): string[] =>
  text
    .split(',')
    .map((one) => one.trim())
    .filter(Boolean);

const contentOf = (place: Place | null, siteId: number): Content =>
  place
    ? {
        name: place.name,
        kind: place.kind,
        siteId: place.siteId,
        floor: place.floor,
        capacity: place.capacity,
        units: place.units,
        description: place.description,
        features: place.features.join(', '),
        prepareMinutes: place.prepareMinutes,
        clearMinutes: place.clearMinutes,
        rules: structuredClone(withoutOwner(place.rules)) as Rules,
      }
    : {
        name: '',
        kind: 'room',
        siteId,
        floor: '',
        capacity: 4,
        units: 1,
        description: '',
        features: '',
        prepareMinutes: 0,
        clearMinutes: 0,
        rules: structuredClone(NO_RULES) as Rules,
      };

/** Whose a place is is said apart from its rules. */
const withoutOwner = ({ assigned: _assigned, ...rules }: PlaceRules): PlaceRules => rules;

const requestOf = ({ features, ...rest }: Content): NewPlaceRequest => ({
  ...rest,
  features: featuresIn(features),
});

/** The contract's own shape, but for features, which are typed in one line. */
const resolver: Resolver<Content> = (content, context, options) =>
  (zodResolver(newPlaceRequest) as unknown as Resolver<Content>)(
    requestOf(content) as unknown as Content,
    context,
    options,
  );

/** Adds a place or changes one: what a change does to its bookings is said before it is done. */
export function PlaceForm({
  place,
  choices,
  onSaved,
  onClose,
}: {
  /** Null where one is added. */
  place: Place | null;
  choices: CatalogueChoices;
  onSaved: (id: number) => void;
  onClose: () => void;
}) {
  const me = useMe();
  const { form, content, set, done, isRestored, startAfresh } = useKeptForm<Content>({
    name: place ? `place ${place.id}` : 'a new place',
    initial: contentOf(place, me.siteId ?? choices.sites[0]?.id ?? 0),
    resolver,
  });
  const errors = form.formState.errors;
  const preview = usePlacePreview(place?.id ?? null);
  const save = useSavePlace(place?.id ?? null, (id) => {
    done();
    onSaved(id);
  });
  const request = requestOf(content);
  const store = () => save.mutate({ place: request, version: place?.version ?? 1 });
  const submit = form.handleSubmit(() =>
    preview.mutate(request, {
      onSuccess: ({ total, impossible }) => {
        if (total === 0 && impossible === null) store();
      },
    }),
  );
  const change = (part: Partial<Content>) => {
    preview.reset();
    save.reset();
    set(part);
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (!focusInvalid(event.currentTarget)) void submit();
      }}
      noValidate
      className="grid gap-3"
    >
      {isRestored && <GoOn startAfresh={startAfresh} />}
      <Field label="Name" error={errors.name?.message}>
        <TextInput
          value={content.name}
          maxLength={80}
          onChange={({ target }) => change({ name: target.value })}
        />
      </Field>
      <div className="grid grid-cols-2 gap-3">
        <Field label="Kind">
          <Select
            value={content.kind}
            onChange={(kind) => change({ kind })}
            options={RESOURCE_KINDS.map((kind) => ({ value: kind, words: ONE_OF[kind] }))}
          />
        </Field>
        <Field label="Site">
          <Select
            value={content.siteId}
            onChange={(siteId) => change({ siteId })}
            options={choices.sites.map(({ id, name }) => ({ value: id, words: name }))}
          />
        </Field>
        <Field label="Floor" error={errors.floor?.message}>
          <TextInput
            value={content.floor}
            maxLength={20}
            onChange={({ target }) => change({ floor: target.value })}
          />
        </Field>
        <span>
          <span className="mb-1 block font-semibold">Seats</span>
          <AmountField
            label="Seats"
            value={content.capacity}
            least={0}
            most={10_000}
            onChange={(capacity) => change({ capacity })}
          />
        </span>
        <span>
          <span className="mb-1 block font-semibold">Identical units</span>
          <AmountField
            label="Identical units"
            value={content.units}
            least={1}
            most={500}
            onChange={(units) => change({ units })}
          />
        </span>
      </div>
      <Field
        label="Features"
        hint={`such as ${choices.features.slice(0, 4).join(', ') || 'screen, video'}; a comma between them`}
        error={errors.features?.message}
      >
        <TextInput
          value={content.features}
          maxLength={1200}
          onChange={({ target }) => change({ features: target.value })}
        />
      </Field>
      <Field label="What others should know" error={errors.description?.message}>
        <TextArea
          rows={2}
          value={content.description}
          maxLength={1000}
          onChange={({ target }) => change({ description: target.value })}
        />
      </Field>
      {(
        [
          ['prepareMinutes', 'Kept free before'],
          ['clearMinutes', 'Kept free after'],
        ] as const
      ).map(([part, label]) => (
        <LengthField
          key={part}
          label={label}
          isNeeded
          least={0}
          most={480}
          value={content[part]}
          onChange={(minutes) => change({ [part]: minutes ?? 0 })}
        />
      ))}
      <PartHeading>What bookings are bound by</PartHeading>
      <RuleFields
        rules={content.rules}
        teams={choices.teams}
        onChange={(part) => change({ rules: { ...form.getValues('rules'), ...part } })}
      />
      {errors.rules?.longestMinutes && (
        <p role="alert" className="font-semibold text-alpenglow">
          For at most {errors.rules.longestMinutes.message}.
        </p>
      )}
      {preview.data && <WhatItDoes preview={preview.data} name={content.name} />}
      {preview.isError && <Failure error={preview.error} />}
      {save.isError && <Failure error={save.error} />}
      <p className="flex flex-wrap gap-2">
        {preview.data && preview.data.total > 0 && preview.data.impossible === null ? (
          <Button
            look="act"
            disabled={save.isPending}
            onClick={({ currentTarget }) => {
              if (!focusInvalid(currentTarget.form!)) store();
            }}
          >
            Change it all the same
          </Button>
        ) : (
          <Button look="act" type="submit" disabled={preview.isPending || save.isPending}>
            {place ? `Change ${place.name}` : 'Add it'}
          </Button>
        )}
        <Button
          look="quiet"
          onClick={() => {
            done();
            onClose();
          }}
        >
          Leave it
        </Button>
      </p>
    </form>
  );
}

/** Bookings that are named; of more, how many. */
const MOST_LINES = 8;

/** Which bookings stand against what a place would be bound by; they stay. */
function WhatItDoes({ preview, name }: { preview: PlacePreview; name: string }) {
  const me = useMe();
  const { against, total, impossible } = preview;
  if (impossible !== null) {
    return (
      <p role="alert" className="rounded-sm bg-glow-wash px-3 py-2 font-semibold">
        {impossible}
      </p>
    );
  }
  if (total === 0) return null;
  return (
    <div role="status" className="rounded-sm bg-glow-wash px-3 py-2">
      <p className="font-semibold">
        {counted(total, 'booking')} {total === 1 ? 'stands' : 'stand'} against this, and{' '}
        {total === 1 ? 'stays' : 'stay'} until somebody changes {total === 1 ? 'it' : 'them'}:
      </p>
      <ul>
        {against.slice(0, MOST_LINES).map((one) => (
          <li key={`${one.start} ${one.holder}`}>
            {formatSpan(one, me.zone, me.clock)}, {one.title && `${one.title}, `}
            {one.holder}
            <span className="text-ink-2">
              : {one.broken.map((words) => `${name} ${words}`).join('; ')}
            </span>
          </li>
        ))}
      </ul>
      {total > MOST_LINES && <p>and {total - MOST_LINES} more</p>}
    </div>
  );
}
