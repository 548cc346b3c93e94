import { counted } from '../../core/counted.ts';
import { useMutation } from '@tanstack/react-query';
import { LAYER_COLOURS } from '../../contract/calendar.ts';
import {
  CATEGORY_PATTERNS,
  type Category,
  type CategoryRequest,
} from '../../contract/preferences.ts';
import { ApiProblem, callApi, errorText, useChanged, useKept } from '../client/index.ts';
import { COLOUR_WORDS, MARK_CLASSES, markStyle } from '../grid/index.ts';
import { useCategories } from './useCategories.ts';
import { Button, TextInput } from '../design/controls.tsx';
import { Select } from '../design/Select.tsx';
import { Empty } from '../design/states.tsx';

/** My own categories, each with a colour and a pattern that tells it apart without. */
export function Categories() {
  const changed = useChanged();
  const categories = useCategories();
  const send = useMutation({
    mutationFn: ({
      id,
      body,
      saved,
    }: {
      /** Of the one that is changed; without it, one is added. */
      id?: number;
      /** Null where it is left out. */
      body: CategoryRequest | null;
      saved?: () => void;
    }) =>
      (id === undefined
        ? callApi('POST /api/categories', { body: body! })
        : body
          ? callApi('PATCH /api/categories/:id', { params: { id }, body })
          : callApi('DELETE /api/categories/:id', { params: { id } })
      ).then(saved),
    onSettled: () => changed('calendar'),
  });
  return (
    <div className="grid gap-2">
      {categories.length === 0 && (
        <Empty title="No categories yet">
          Name one, such as Field work, and give it a colour; events are put into it in their form.
        </Empty>
      )}
      {categories.map((one) => (
        <CategoryLine
          key={`${one.id} ${one.name} ${one.colour} ${one.pattern}`}
          category={one}
          action="Keep"
          onSave={(body, saved) => send.mutate({ id: one.id, body, saved })}
          onRemove={() => send.mutate({ id: one.id, body: null })}
        />
      ))}
      <CategoryLine
        key={categories.length}
        category={{
          name: '',
          colour: LAYER_COLOURS[categories.length % LAYER_COLOURS.length]!,
          pattern: 'plain',
        }}
        action="Add"
        onSave={(body, saved) => send.mutate({ body, saved })}
      />
      {send.isError && (
        <p role="alert" className="font-semibold text-alpenglow">
          {send.error instanceof ApiProblem && send.error.field('name')
            ? `The name ${send.error.field('name')}.`
            : errorText(send.error)}
        </p>
      )}
    </div>
  );
}

function CategoryLine({
  category,
  action,
  onSave,
  onRemove,
}: {
  category: CategoryRequest & Partial<Category>;
  action: string;
  /** Calls back once it is saved. */
  onSave: (body: CategoryRequest, saved: () => void) => void;
  onRemove?: () => void;
}) {
  const [draft, setDraft, sent] = useKept<CategoryRequest>(`category ${category.id ?? 'new'}`, {
    name: category.name,
    colour: category.colour,
    pattern: category.pattern,
  });
  const changed =
    draft.name.trim() !== category.name ||
    draft.colour !== category.colour ||
    draft.pattern !== category.pattern;
  const name = category.name || 'the new category';
  return (
    <form
      className="flex flex-wrap items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (draft.name.trim()) onSave(draft, sent);
      }}
    >
      <i
        className={`h-8 w-4 rounded-sm ${MARK_CLASSES[draft.pattern]}`}
        style={markStyle(draft.colour)}
      />
      <TextInput
        aria-label={`Name of ${name}`}
        placeholder="Name"
        className="w-48"
        maxLength={40}
        value={draft.name}
        onChange={(event) => setDraft({ ...draft, name: event.target.value })}
      />
      <Select
        question={`Colour of ${name}`}
        look="word"
        value={draft.colour}
        onChange={(colour) => setDraft({ ...draft, colour })}
        options={LAYER_COLOURS.map((colour) => ({ value: colour, words: COLOUR_WORDS[colour] }))}
      />
      <Select
        question={`Pattern of ${name}`}
        look="word"
        value={draft.pattern}
        onChange={(pattern) => setDraft({ ...draft, pattern })}
        options={CATEGORY_PATTERNS.map((pattern) => ({ value: pattern, words: pattern }))}
      />
      <Button type="submit" disabled={!draft.name.trim() || !changed}>
        {action}
      </Button>
      {onRemove && (
        <Button look="quiet" aria-label={`Remove ${category.name}`} onClick={onRemove}>
          Remove
        </Button>
      )}
      {category.events !== undefined && category.events > 0 && (
        <span className="text-ink-2">{counted(category.events, 'event')}</span>
      )}
    </form>
  );
}
