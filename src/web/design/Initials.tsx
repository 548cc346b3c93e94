/** The first letters of a name's first and last word. */
export const initialsOf = (name: string): string => {
  const words = name.split(/\s+/).filter(Boolean);
  return [words[0], words.length > 1 ? words.at(-1) : undefined]
    .map((word) => word?.[0]?.toUpperCase() ?? '')
    .join('');
};

/** Somebody as a round sign with their initials; a place as a square one. */
export function Initials({ name, square = false }: { name: string; square?: boolean }) {
  return (
    <span
      aria-hidden="true"
      className={`grid size-6 shrink-0 place-items-center bg-ridge font-head text-[10px] font-bold text-ink ${square ? 'rounded-sm' : 'rounded-full'}`}
    >
      {initialsOf(name)}
    </span>
  );
}
