import { EyeOff } from 'lucide-react';
import { DropdownMenu, Popover } from 'radix-ui';
import { useState } from 'react';
import { LAYER_COLOURS, type Layer } from '../../contract/calendar.ts';
import type { Preferences } from '../../contract/session.ts';
import { FindField } from '../find/index.ts';
import { Button } from '../design/controls.tsx';
import { Select } from '../design/Select.tsx';
import { COLOUR_WORDS, markStyle } from '../grid/index.ts';
import type { useLayers } from './useLayers.ts';

const ARRANGEMENTS: { value: Preferences['arrangement']; words: string }[] = [
  { value: 'over', words: 'on my days' },
  { value: 'beside', words: 'beside my days' },
  { value: 'rows', words: 'one row each' },
];
const ITEM =
  'cursor-pointer rounded-sm px-3 py-1.5 outline-none data-[highlighted]:bg-gentian-wash';

/** Mine, on or off as the others are. */
export const MeChip = ({ isOn, onChange }: { isOn: boolean; onChange: (on: boolean) => void }) => (
  <button
    type="button"
    aria-pressed={isOn}
    onClick={() => onChange(!isOn)}
    className={`flex min-h-7 items-center gap-1.5 rounded-full border px-2.5 text-[13px] max-sm:min-h-11 ${isOn ? 'border-ink-2 bg-sheet' : 'border-dashed border-edge text-ink-2'}`}
  >
    <i className="h-3 w-3.5 border border-ink-2 border-l-[5px] border-l-ink bg-sheet" />
    Me
  </button>
);

/** How the layers stand, as a word whose choices open in place. */
export const ArrangementWord = ({
  arrangement,
  onArrange,
}: {
  arrangement: Preferences['arrangement'];
  onArrange: (arrangement: Preferences['arrangement']) => void;
}) => (
  <Select
    look="word"
    question="How layers stand"
    value={arrangement}
    onChange={onArrange}
    options={ARRANGEMENTS}
  />
);

/** A layer over my calendar: on or off by one click, with how it is drawn. */
export function LayerChip({
  layer,
  note,
  rock,
  actions,
}: {
  layer: Layer;
  note: string | undefined;
  /** The hatch that it is drawn with; null where it is drawn in its colour. */
  rock: string | null;
  actions: ReturnType<typeof useLayers>;
}) {
  return (
    <span
      className={`flex items-center rounded-full border text-[13px] ${layer.shown ? 'border-ink-2 bg-sheet' : 'border-dashed border-edge text-ink-2'}`}
    >
      <button
        type="button"
        aria-pressed={layer.shown}
        title={note}
        onClick={() => actions.change({ id: layer.id, shown: !layer.shown })}
        className="flex min-h-7 items-center gap-1.5 rounded-full pl-2.5 max-sm:min-h-11 print:pr-2.5"
      >
        <i
          className={`h-3 w-3.5 ${layer.shown ? (rock ?? 'mark-plain') : 'border border-dashed border-ink-2'}`}
          style={markStyle(layer.colour)}
        />
        {layer.name}
        {note && layer.shown && (
          <>
            <EyeOff size={12} aria-hidden="true" className="text-ink-2" />
            <span className="sr-only">, {note}</span>
          </>
        )}
      </button>
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger
          aria-label={`Colour of ${layer.name}, or remove it`}
          className="min-h-6 min-w-6 rounded-full px-2 text-ink-2 hover:text-ink max-sm:min-h-11 max-sm:min-w-11"
        >
          …
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal container={document.querySelector('main')}>
          <DropdownMenu.Content
            align="start"
            sideOffset={4}
            className="z-40 rounded-sm border border-edge bg-sheet p-1.5 shadow-lg"
          >
            <div className="grid grid-cols-5 gap-1 p-1">
              {LAYER_COLOURS.map((colour) => (
                <DropdownMenu.Item
                  key={colour}
                  aria-label={COLOUR_WORDS[colour]}
                  title={COLOUR_WORDS[colour]}
                  onSelect={() => actions.change({ id: layer.id, colour })}
                  className={`mark-plain size-7 cursor-pointer rounded-sm outline-2 outline-offset-1 outline-transparent data-[highlighted]:outline-ink ${colour === layer.colour ? 'ring-2 ring-ink ring-offset-1' : ''}`}
                  style={markStyle(colour)}
                />
              ))}
            </div>
            <DropdownMenu.Separator className="my-1 h-px bg-edge" />
            <DropdownMenu.Item className={ITEM} onSelect={() => actions.remove(layer.id)}>
              Remove {layer.name}
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </span>
  );
}

/** Lays somebody else's time over mine. */
export function AddLayer({ layers }: { layers: ReturnType<typeof useLayers> }) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button look="quiet" className="px-1 text-[13px]">
          {layers.layers.length === 0 ? 'see somebody’s time with mine' : 'somebody else’s, too'}
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          aria-label="Whose time"
          className="z-40 w-72 rounded-sm border border-edge bg-sheet p-2 shadow-lg"
        >
          <FindField
            label="A person, a team or a place"
            inFlow
            autoFocus
            onFound={(one) => {
              layers.add(one.kind === 'team' ? { teamId: one.id } : { subjectId: one.id });
              setOpen(false);
            }}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
