import { Command } from 'cmdk';
import { DropdownMenu, Popover } from 'radix-ui';
import { useState } from 'react';
import { LAYER_COLOURS, type Layer } from '../../contract/calendar.ts';
import type { Found } from '../../contract/search.ts';
import type { Preferences } from '../../contract/session.ts';
import { useChosenEntry, useFound, valueOf } from '../app/index.ts';
import { Button } from '../design/controls.tsx';
import { markStyle } from '../grid/index.ts';
import type { useLayers } from './useLayers.ts';

const ARRANGEMENTS: [Preferences['arrangement'], string][] = [
  ['over', 'Over one another'],
  ['beside', 'Side by side'],
  ['rows', 'A row each'],
];
const ITEM =
  'cursor-pointer rounded-sm px-3 py-1.5 outline-none data-[highlighted]:bg-gentian-wash';

/** The layers over my calendar: each on or off by one click, with its colour, and how they stand. */
export function LayerChips({
  layers,
  notes,
  arrangement,
  onArrange,
}: {
  layers: ReturnType<typeof useLayers>;
  /** What is not shown of a layer, and why, by its id. */
  notes: ReadonlyMap<number, string>;
  arrangement: Preferences['arrangement'];
  onArrange: (arrangement: Preferences['arrangement']) => void;
}) {
  const some = layers.layers.some((layer) => layer.shown);
  return (
    <div className="flex flex-wrap items-center gap-1.5" role="group" aria-label="Layers">
      {layers.layers.map((layer) => (
        <Chip key={layer.id} layer={layer} note={notes.get(layer.id)} actions={layers} />
      ))}
      <AddLayer layers={layers} />
      {some && (
        <span className="ml-2 flex items-center gap-0.5" role="group" aria-label="How layers stand">
          {ARRANGEMENTS.map(([kind, words]) => (
            <button
              key={kind}
              type="button"
              aria-pressed={arrangement === kind}
              onClick={() => onArrange(kind)}
              className={`rounded-sm px-2 py-0.5 text-xs ${arrangement === kind ? 'bg-ink text-paper' : 'text-ink-2 hover:bg-sheet'}`}
            >
              {words}
            </button>
          ))}
        </span>
      )}
    </div>
  );
}

function Chip({
  layer,
  note,
  actions,
}: {
  layer: Layer;
  note: string | undefined;
  actions: ReturnType<typeof useLayers>;
}) {
  return (
    <span
      className={`flex items-center rounded-full border text-xs ${layer.shown ? 'border-ink-2 bg-sheet' : 'border-dashed border-edge text-ink-2'}`}
    >
      <button
        type="button"
        aria-pressed={layer.shown}
        title={note}
        onClick={() => actions.change({ id: layer.id, shown: !layer.shown })}
        className="flex items-center gap-1.5 rounded-full py-0.5 pl-2"
      >
        <i
          className={`size-2.5 rounded-full ${layer.shown ? 'mark-plain' : 'border border-ink-2'}`}
          style={markStyle(layer.colour)}
        />
        {layer.name}
        {note && layer.shown && <span className="text-ink-2">({note})</span>}
      </button>
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger
          aria-label={`Colour of ${layer.name}, or remove it`}
          className="rounded-full px-2 py-0.5 text-ink-2 hover:text-ink"
        >
          …
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="start"
            sideOffset={4}
            className="z-40 rounded-sm border border-edge bg-sheet p-1.5 shadow-lg"
          >
            <div className="grid grid-cols-5 gap-1 p-1">
              {LAYER_COLOURS.map((colour) => (
                <DropdownMenu.Item
                  key={colour}
                  aria-label={colour}
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

function AddLayer({ layers }: { layers: ReturnType<typeof useLayers> }) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState('');
  const { found } = useFound(text);
  const [chosen, setChosen] = useChosenEntry(found);
  const add = (one: Found) => {
    layers.add(one.kind === 'team' ? { teamId: one.id } : { subjectId: one.id });
    setOpen(false);
    setText('');
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button look="quiet" className="text-xs">
          {layers.layers.length === 0 ? 'Lay another calendar over mine' : 'Add a layer'}
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          className="z-40 w-72 rounded-sm border border-edge bg-sheet p-2 shadow-lg"
        >
          <Command
            shouldFilter={false}
            value={chosen}
            onValueChange={setChosen}
            label="Whose calendar"
          >
            <Command.Input
              autoFocus
              value={text}
              onValueChange={setText}
              placeholder="A person, a team or a place"
              className="w-full rounded-sm border border-edge bg-paper px-2.5 py-1.5 placeholder:text-ink-2"
            />
            <Command.List className="mt-1 max-h-60 overflow-y-auto">
              {found.map((one) => (
                <Command.Item
                  key={valueOf(one)}
                  value={valueOf(one)}
                  onSelect={() => add(one)}
                  className="flex cursor-pointer justify-between gap-3 rounded-sm px-2 py-1 data-[selected=true]:bg-gentian-wash"
                >
                  <span className="font-medium">{one.name}</span>
                  <span className="text-ink-2">{one.detail}</span>
                </Command.Item>
              ))}
              {text.trim() !== '' && found.length === 0 && (
                <p className="px-2 py-1.5 text-ink-2">Nobody and nothing begins with “{text}”.</p>
              )}
            </Command.List>
          </Command>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
