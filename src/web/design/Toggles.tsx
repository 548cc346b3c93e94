import { ToggleGroup } from 'radix-ui';

type Look = 'ways' | 'small' | 'days';

const LOOKS: Record<Look, string> = {
  ways: 'shrink-0 border-b-2 border-transparent px-2 py-1 text-ink-2 hover:text-ink data-[state=on]:border-lichen data-[state=on]:font-semibold data-[state=on]:text-ink max-sm:min-h-11',
  small:
    'min-h-6 rounded-sm px-2 py-0.5 text-xs text-ink-2 hover:bg-sheet data-[state=on]:bg-ink data-[state=on]:text-paper max-sm:min-h-11',
  days: 'min-w-9 rounded-sm border border-edge bg-sheet px-1.5 py-1 font-semibold hover:border-ink-2 data-[state=on]:border-gentian data-[state=on]:bg-gentian data-[state=on]:text-on-gentian max-sm:min-h-11',
};

interface Shown<Value extends string> {
  /** What is chosen, said before the options. */
  label: string;
  options: readonly { value: Value; words: string; name?: string }[];
  look?: Look;
  className?: string;
}

const items = <Value extends string>({ options, look = 'small' }: Shown<Value>) =>
  options.map(({ value, words, name }) => (
    <ToggleGroup.Item key={value} value={value} aria-label={name} className={LOOKS[look]}>
      {words}
    </ToggleGroup.Item>
  ));

/** One of a few ways, side by side; one of them is always on. */
export function OneOf<Value extends string>({
  value,
  onChange,
  ...shown
}: Shown<Value> & { value: Value; onChange: (value: Value) => void }) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={shown.label}
      value={value}
      onValueChange={(next) => next && onChange(next as Value)}
      className={`flex items-center gap-0.5 ${shown.className ?? ''}`}
    >
      {items(shown)}
    </ToggleGroup.Root>
  );
}

/** Any of a few, side by side. */
export function AnyOf<Value extends string>({
  value,
  onChange,
  ...shown
}: Shown<Value> & { value: readonly Value[]; onChange: (value: Value[]) => void }) {
  return (
    <ToggleGroup.Root
      type="multiple"
      aria-label={shown.label}
      value={[...value]}
      onValueChange={(next) => onChange(next as Value[])}
      className={`flex flex-wrap items-center gap-1 ${shown.className ?? ''}`}
    >
      {items(shown)}
    </ToggleGroup.Root>
  );
}
