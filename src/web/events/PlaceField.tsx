import { LONGEST_PLACE } from '../../core/meetings/fields.ts';
import { Field, TextInput } from '../design/controls.tsx';

/** Where it is, in words, where reservations are not changed. */
export const PlaceField = ({
  value,
  onChange,
}: {
  value: string;
  onChange: (place: string) => void;
}) => (
  <Field label="Place">
    <TextInput
      value={value}
      maxLength={LONGEST_PLACE}
      placeholder="Any words"
      onChange={(event) => onChange(event.target.value)}
    />
  </Field>
);
