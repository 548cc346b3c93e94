import { zoneCity } from '../../core/time/format.ts';
import { ZONES } from '../../core/time/zones.ts';
import { useMe } from '../client/index.ts';
import { Field } from '../design/controls.tsx';
import { SearchSelect } from '../design/SearchSelect.tsx';

const asOption = (zone: string) => ({ value: zone, words: zone });

/**
 * A time zone found by typing a part of its name.
 * @param near zones one has to do with, which come first, with the names they go by here
 */
export function ZoneChoice({
  near = [],
  ...rest
}: {
  near?: readonly { value: string; words: string }[];
  value: string;
  onChange: (zone: string) => void;
  id?: string;
  'aria-describedby'?: string;
}) {
  const known = new Set(near.map((one) => one.value));
  const others = ZONES.filter((zone) => !known.has(zone)).map(asOption);
  return (
    <SearchSelect
      placeholder="A city or a zone"
      groups={[
        ...(near.length > 0 ? [{ heading: 'Near to you', options: near }] : []),
        { heading: near.length > 0 ? 'All others' : 'All', options: others },
      ]}
      {...rest}
    />
  );
}

/** A labelled time zone, those one has to do with first. */
export function ZoneField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange: (zone: string) => void;
}) {
  const me = useMe();
  const near = [...new Set([value, me.zone, ...me.furtherZones, ...Object.keys(me.zoneNames)])];
  return (
    <Field label={label}>
      <ZoneChoice
        value={value}
        onChange={onChange}
        near={near.map((zone) => ({
          value: zone,
          words: `${me.zoneNames[zone] ?? zoneCity(zone)} (${zone})`,
        }))}
      />
    </Field>
  );
}
