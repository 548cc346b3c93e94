import { useState } from 'react';
import type { StaffMember } from '../../contract/administration.ts';
import { RESOURCE_KINDS, type ResourceKind } from '../../contract/resourceKind.ts';
import { chargeInWords, KIND_WORDS, type Charge } from '../../core/people/reach.ts';
import { Button } from '../design/controls.tsx';
import { Select } from '../design/Select.tsx';
import { FindField } from '../find/index.ts';

/** A charge with the names of what it is about. */
export type NamedCharge = StaffMember['reach'][number];
type Deputy = StaffMember['deputy'];

export const chargesOf = (reach: readonly NamedCharge[]): Charge[] =>
  reach.map(({ siteId, floor, kind, placeId }) => ({ siteId, floor, kind, placeId }));

export const wordsOf = (one: NamedCharge): string =>
  chargeInWords(one, (what) => (what === 'site' ? one.site : one.place) ?? 'one that is gone');

/** What a steward looks after and is asked about, and who stands in for them. */
export function ReachFields({
  person,
  sites,
  value,
  onChange,
  deputy,
  onDeputy,
  errors,
}: {
  person: { id: number; name: string };
  sites: readonly { id: number; name: string; floors: readonly { name: string }[] }[];
  value: readonly NamedCharge[];
  onChange: (reach: NamedCharge[]) => void;
  deputy: Deputy;
  onDeputy: (deputy: Deputy) => void;
  errors: { reach?: string | undefined; deputy?: string | undefined };
}) {
  return (
    <section aria-labelledby="reach" className="grid gap-3 rounded-sm border border-edge p-3">
      <h3 id="reach" className="text-[15px]">
        What they look after
      </h3>
      {value.length === 0 ? (
        <p className="text-ink-2">Every place there is. Name some, and it is those alone.</p>
      ) : (
        <ul className="grid gap-1">
          {value.map((one, k) => (
            <li key={k} className="flex items-center justify-between gap-2">
              {wordsOf(one)}
              <Button
                look="quiet"
                aria-label={`Looks after ${wordsOf(one)} no more`}
                onClick={() => onChange(value.filter((other) => other !== one))}
              >
                Remove
              </Button>
            </li>
          ))}
        </ul>
      )}
      {errors.reach && (
        <p role="alert" className="text-sm font-semibold text-glow">
          {errors.reach}
        </p>
      )}
      <Another sites={sites} value={value} onAdd={(one) => onChange([...value, one])} />
      <div className="grid gap-1.5">
        <p>
          <b className="font-semibold">Deputy:</b>{' '}
          {deputy ? (
            <>
              {deputy.name}{' '}
              <button
                type="button"
                className="reach font-semibold text-gentian hover:underline"
                onClick={() => onDeputy(null)}
              >
                no more
              </button>
            </>
          ) : (
            <span className="text-ink-2">nobody</span>
          )}
        </p>
        <FindField
          label={deputy ? 'Somebody else as deputy' : 'Name a deputy'}
          kinds={['person']}
          inFlow
          hint={errors.deputy ?? 'May do the same, and is asked while they are away or have left.'}
          onFound={({ id, name }) => {
            if (id !== person.id) onDeputy({ id, name });
          }}
        />
      </div>
    </section>
  );
}

const KINDS: { value: ResourceKind | null; words: string }[] = [
  { value: null, words: 'everything' },
  ...RESOURCE_KINDS.map((value) => ({ value, words: KIND_WORDS[value] ?? value })),
];

/** One thing more that is looked after: by kind, site and floor, or a single place. */
function Another({
  sites,
  value,
  onAdd,
}: {
  sites: readonly { id: number; name: string; floors: readonly { name: string }[] }[];
  value: readonly NamedCharge[];
  onAdd: (one: NamedCharge) => void;
}) {
  const [kind, setKind] = useState<ResourceKind | null>(null);
  const [siteId, setSiteId] = useState<number | null>(null);
  const [floor, setFloor] = useState<string | null>(null);
  const site = sites.find(({ id }) => id === siteId) ?? null;
  const one: NamedCharge = {
    siteId,
    floor,
    kind,
    placeId: null,
    site: site?.name ?? null,
    place: null,
  };
  const isThere = value.some((other) => wordsOf(other) === wordsOf(one));
  return (
    <div className="grid gap-2">
      <div className="flex flex-wrap items-baseline gap-1.5">
        <Select<ResourceKind | null>
          look="word"
          question="Which kind"
          value={kind}
          options={KINDS}
          onChange={setKind}
        />
        <span className="text-ink-2">at</span>
        <Select<number | null>
          look="word"
          question="At which site"
          value={siteId}
          options={[
            { value: null, words: 'every site' },
            ...sites.map(({ id, name }) => ({ value: id, words: name })),
          ]}
          onChange={(id) => {
            setSiteId(id);
            setFloor(null);
          }}
        />
        {site && site.floors.length > 0 && (
          <Select<string | null>
            look="word"
            question="On which floor"
            value={floor}
            options={[
              { value: null, words: 'every floor' },
              ...site.floors.map(({ name }) => ({ value: name, words: `floor ${name}` })),
            ]}
            onChange={setFloor}
          />
        )}
        <Button disabled={isThere || (kind === null && siteId === null)} onClick={() => onAdd(one)}>
          Add
        </Button>
      </div>
      <FindField
        label="Or a single place"
        kinds={['resource']}
        inFlow
        onFound={({ id, name }) => {
          if (!value.some(({ placeId }) => placeId === id))
            onAdd({ siteId: null, floor: null, kind: null, placeId: id, site: null, place: name });
        }}
      />
    </div>
  );
}
