export interface UserNotice {
  id: number;
  text: string;
  undo?: () => void;
}

let list: readonly UserNotice[] = [];
let nextId = 1;
const listeners = new Set<() => void>();

function replace(next: readonly UserNotice[]) {
  list = next;
  for (const listener of listeners) listener();
}

/**
 * Tells the user something that happened; `undo` takes it back.
 * @returns what the notice is dismissed by
 */
export function tellUser(text: string, undo?: () => void): number {
  const id = nextId++;
  replace([...list.slice(-2), { id, text, ...(undo && { undo }) }]);
  return id;
}

export const dismiss = (id: number): void => replace(list.filter((notice) => notice.id !== id));
export const notices = (): readonly UserNotice[] => list;
export function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}
