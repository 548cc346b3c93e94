import { Popover } from 'radix-ui';
import { useLayoutEffect, useRef, useState, type ReactNode } from 'react';

/** A part of a line. */
export interface LinePart {
  key: string;
  node: ReactNode;
  /** Which goes first where there is no room: the lowest; null stays. */
  leaves: number | null;
}

const GAP_PX = 10;
const MORE_PX = 46;

/** Which parts find no room, given how wide each is. */
export function withoutRoom(
  parts: readonly Pick<LinePart, 'key' | 'leaves'>[],
  widths: ReadonlyMap<string, number>,
  available: number,
): string[] {
  const width = (some: readonly Pick<LinePart, 'key'>[]) =>
    some.reduce((sum, { key }) => sum + (widths.get(key) ?? 0) + GAP_PX, -GAP_PX);
  let left = [...parts];
  if (width(left) <= available) return [];
  const order = parts.filter((one) => one.leaves !== null).sort((a, b) => a.leaves! - b.leaves!);
  const gone: string[] = [];
  for (const { key } of order) {
    if (width(left) + GAP_PX + MORE_PX <= available) break;
    gone.push(key);
    left = left.filter((one) => one.key !== key);
  }
  return gone;
}

/** Parts on one line; what finds no room stands behind “…”, in the order in which it is needed least. */
export function OneLine({ parts, label }: { parts: readonly LinePart[]; label: string }) {
  const line = useRef<HTMLDivElement>(null);
  const widths = useRef(new Map<string, number>());
  const [gone, setGone] = useState<readonly string[]>([]);
  const keys = parts.map((one) => one.key).join(' ');
  useLayoutEffect(() => {
    const box = line.current!;
    const fit = () => {
      for (const child of box.querySelectorAll<HTMLElement>(':scope > [data-part]'))
        widths.current.set(child.dataset.part!, child.offsetWidth);
      const next = withoutRoom(parts, widths.current, box.clientWidth);
      setGone((before) => (before.join(' ') === next.join(' ') ? before : next));
    };
    fit();
    const observer = new ResizeObserver(fit);
    observer.observe(box);
    for (const child of box.querySelectorAll(':scope > [data-part]')) observer.observe(child);
    return () => observer.disconnect();
    // What the parts are tells when they are measured anew; what they hold, the observer.
    // eslint-disable-next-line react-hooks/exhaustive-deps -- told by their keys
  }, [keys, gone]);
  const hidden = parts.filter((one) => gone.includes(one.key));
  const shown = parts.filter((one) => !gone.includes(one.key));
  const last = shown.at(-1);
  return (
    <div
      ref={line}
      className="flex min-w-0 flex-1 items-center overflow-x-clip"
      style={{ gap: GAP_PX }}
    >
      {shown.map(({ key, node }) => (
        <div
          key={key}
          data-part={key}
          className={`flex shrink-0 items-center ${key === last?.key ? 'order-2 ml-auto' : ''}`}
        >
          {node}
        </div>
      ))}
      {hidden.length > 0 && (
        <Popover.Root>
          <Popover.Trigger
            aria-label={label}
            className="order-1 min-h-7 shrink-0 rounded-full border border-edge bg-sheet px-3 font-semibold hover:border-ink-2"
          >
            …
          </Popover.Trigger>
          <Popover.Portal>
            <Popover.Content
              align="end"
              sideOffset={6}
              className="z-40 grid justify-items-start gap-2 rounded-sm border border-edge bg-sheet p-3 shadow-lg"
            >
              {hidden.map(({ key, node }) => (
                <div key={key} className="flex items-center">
                  {node}
                </div>
              ))}
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      )}
    </div>
  );
}
