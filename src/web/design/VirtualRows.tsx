import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useLayoutEffect, useRef, useState, type ReactNode } from 'react';
import { usePhone } from './usePhone.ts';

/** Asked for before the end of what is there is in sight. */
const AHEAD = 12;

/**
 * A long list, of which only what is in sight is drawn; the view's own scrolling moves through it.
 * @param total how many there will be once all are read
 */
export function VirtualRows<Row>({
  label,
  rows,
  keyOf,
  total,
  rowPx,
  onNeedMore,
  children,
}: {
  label: string;
  rows: readonly Row[];
  keyOf: (row: Row) => string | number;
  total: number;
  /** About how high a row is, and on a phone. Pixels. */
  rowPx: readonly [number, number];
  onNeedMore: () => void;
  children: (row: Row) => ReactNode;
}) {
  const list = useRef<HTMLUListElement>(null);
  const phone = usePhone();
  const [margin, setMargin] = useState(0);
  useLayoutEffect(() => {
    const view = scroller();
    if (list.current && view)
      setMargin(
        list.current.getBoundingClientRect().top -
          view.getBoundingClientRect().top +
          view.scrollTop,
      );
  }, [rows.length]);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: scroller,
    estimateSize: () => rowPx[phone ? 1 : 0],
    overscan: 8,
    scrollMargin: margin,
    getItemKey: (k) => keyOf(rows[k]!),
  });
  const shown = virtual.getVirtualItems();
  const last = shown.at(-1)?.index ?? 0;
  const isNear = rows.length < total && last >= rows.length - AHEAD;
  useEffect(() => {
    if (isNear) onNeedMore();
  }, [isNear, rows.length, onNeedMore]);
  return (
    <ul
      ref={list}
      aria-label={label}
      className="relative"
      style={{ height: virtual.getTotalSize() }}
    >
      {shown.map(({ index, key, start }) => (
        <li
          key={key}
          ref={virtual.measureElement}
          data-index={index}
          aria-posinset={index + 1}
          aria-setsize={total}
          className="absolute inset-x-0 top-0"
          style={{ transform: `translateY(${start - margin}px)` }}
        >
          {children(rows[index]!)}
        </li>
      ))}
    </ul>
  );
}

/** What scrolls a view. */
const scroller = () => document.getElementById('view');
