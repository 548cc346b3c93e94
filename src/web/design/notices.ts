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

/** Tells the user something that happened; `undo` takes it back. */
export function tellUser(text: string, undo?: () => void): void {
  replace([...list.slice(-2), { id: nextId++, text, ...(undo && { undo }) }]);
}

export const dismiss = (id: number): void => replace(list.filter((notice) => notice.id !== id));
export const notices = (): readonly UserNotice[] => list;
export function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}
