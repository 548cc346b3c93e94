import type { Interval } from '../../core/time/interval.ts';
import { placeOf } from '../grid/index.ts';

/** The chosen time on a day's row: an outline with a solid grip at each edge. */
export function Selection({
  span,
  window,
  grips = false,
}: {
  span: Interval | null;
  window: Interval;
  grips?: boolean;
}) {
  const place = span && placeOf(span, window);
  if (!place) return null;
  return (
    <div
      className="pointer-events-none absolute inset-y-0 z-10 rounded-sm border-2 border-gentian bg-gentian/15"
      style={place}
    >
      {grips && (
        <>
          <i className="absolute top-1/2 -left-1 h-6 w-1.5 -translate-y-1/2 rounded-full bg-gentian" />
          <i className="absolute top-1/2 -right-1 h-6 w-1.5 -translate-y-1/2 rounded-full bg-gentian" />
        </>
      )}
    </div>
  );
}

/** Where the meeting stands now, while another time is looked for. */
export function PresentTime({ span, window }: { span: Interval | null; window: Interval }) {
  const place = span && placeOf(span, window);
  if (!place) return null;
  return (
    <div
      className="pointer-events-none absolute inset-y-0 z-[5] border-2 border-dashed border-ink"
      style={place}
      data-testid="present-time"
    >
      <span className="absolute top-0 left-0 bg-ink px-1 text-[10px] leading-[13px] font-semibold text-paper">
        now
      </span>
    </div>
  );
}
