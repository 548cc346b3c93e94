import { useEffect, useMemo, useRef, useState } from 'react';
import {
  useForm,
  type DefaultValues,
  type FieldValues,
  type Path,
  type PathValue,
  type Resolver,
} from 'react-hook-form';
import { forget, keep, kept } from '../client/index.ts';

/** A part of a form that somebody else changed while it was open. */
export interface Difference<Content> {
  part: keyof Content & string;
  /** What it was when the form was opened, and what it is now. */
  was: Content[keyof Content];
  theirs: Content[keyof Content];
  /** Whether it was changed here too; what was typed here is then what stands in the form. */
  isMineToo: boolean;
}

interface KeptContent<Content> {
  start: Content;
  content: Content;
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/**
 * Puts what is there by now under what is being typed: parts that were not touched here follow, the
 * others stay as they are typed.
 */
export function rebased<Content extends object>(
  start: Content,
  content: Content,
  theirs: Content,
): { content: Content; differences: Difference<Content>[] } {
  const after = { ...content };
  const differences: Difference<Content>[] = [];
  for (const part of Object.keys(theirs) as (keyof Content & string)[]) {
    if (same(start[part], theirs[part])) continue;
    const isMineToo = !same(content[part], start[part]);
    if (!isMineToo) after[part] = theirs[part];
    if (!same(content[part], theirs[part]))
      differences.push({ part, was: start[part], theirs: theirs[part], isMineToo });
  }
  return { content: after, differences };
}

/**
 * A form whose content is kept in this tab until it is saved or thrown away, under a name. It is begun
 * from `initial`; when that changes underneath (somebody else saved), what is typed stays.
 * @param begun what it already holds beyond its beginning, as when it is carried here from elsewhere
 */
export function useKeptForm<Content extends FieldValues>({
  name,
  initial,
  begun,
  resolver,
}: {
  name: string;
  initial: Content;
  begun?: Content | undefined;
  resolver: Resolver<Content>;
}) {
  const [opened] = useState(() => {
    const found = kept<KeptContent<Content>>(name);
    if (found) return { ...rebased(found.start, found.content, initial), isRestored: true };
    return { content: begun ?? initial, differences: [], isRestored: false };
  });
  const [start, setStart] = useState(initial);
  const [differences, setDifferences] = useState<Difference<Content>[]>(opened.differences);
  const [isRestored, setIsRestored] = useState(opened.isRestored);
  const form = useForm<Content>({
    defaultValues: opened.content as DefaultValues<Content>,
    resolver,
  });
  const content = form.watch();
  const isDone = useRef(false);
  const isTouched = !same(content, start);

  const set = (part: Partial<Content> | ((before: Content) => Partial<Content>)) => {
    const before = form.getValues();
    const after = typeof part === 'function' ? part(before) : part;
    for (const [field, value] of Object.entries(after)) {
      if (same(before[field], value)) continue;
      form.setValue(field as Path<Content>, value as PathValue<Content, Path<Content>>, {
        shouldDirty: true,
        shouldValidate: form.formState.isSubmitted,
      });
    }
  };

  const initialKey = JSON.stringify(initial);
  const startKey = JSON.stringify(start);
  useEffect(() => {
    if (initialKey === startKey || isDone.current) return;
    const { content: after, differences: found } = rebased(start, form.getValues(), initial);
    setStart(initial);
    set(after);
    setDifferences((before) => [
      ...before.filter((one) => !found.some(({ part }) => part === one.part)),
      ...found,
    ]);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- told by their content
  }, [initialKey, startKey]);

  const contentKey = JSON.stringify(content);
  useEffect(() => {
    if (isDone.current) return;
    if (contentKey !== startKey) keep(name, { start, content } satisfies KeptContent<Content>);
    else forget(name);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- told by their content
  }, [name, contentKey, startKey]);

  return useMemo(
    () => ({
      form,
      content,
      set,
      isTouched,
      isRestored,
      differences,
      /** Takes what somebody else made of a part, or keeps what is typed here. */
      settle: (part: Difference<Content>['part'], takeTheirs: boolean) => {
        const difference = differences.find((one) => one.part === part);
        if (difference && takeTheirs)
          set({ [part]: difference.theirs } as unknown as Partial<Content>);
        setDifferences((before) => before.filter((one) => one.part !== part));
      },
      startAfresh: () => {
        setIsRestored(false);
        setDifferences([]);
        set(start);
      },
      /** It is saved, or carried elsewhere: nothing is kept here any more. */
      done: () => {
        isDone.current = true;
        forget(name);
      },
    }),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- told by their content
    [contentKey, startKey, differences, isRestored, name, form.formState.errors],
  );
}

export type KeptForm<Content extends FieldValues> = ReturnType<typeof useKeptForm<Content>>;
