/** What the address of a plan keeps, so that it can be shared and reloaded. */
export interface Asked {
  id: number;
  role: 'required' | 'optional';
  setAside: boolean;
}

/** Reads `12,45o,78ox`: o for optional, x for set aside; what cannot be read is left out. */
export function readLineUp(text: string | null): Asked[] {
  const seen = new Set<number>();
  return (text ?? '').split(',').flatMap((part) => {
    const match = /^(\d+)(o?)(x?)$/.exec(part);
    const id = Number(match?.[1]);
    if (!match || !id || seen.has(id)) return [];
    seen.add(id);
    return [{ id, role: match[2] ? 'optional' : 'required', setAside: match[3] === 'x' } as const];
  });
}

export const writeLineUp = (lineUp: readonly Asked[]): string =>
  lineUp
    .map(({ id, role, setAside }) => `${id}${role === 'optional' ? 'o' : ''}${setAside ? 'x' : ''}`)
    .join(',');
