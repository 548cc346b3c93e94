import { memo, type PointerEvent } from 'react';
import { formatSpan } from '../../core/time/format.ts';
import { overlaps, type Interval } from '../../core/time/interval.ts';
import { useMe } from '../client/index.ts';
import type { Grip } from './drag.ts';
import { isBand, isBar, nameOf, type GridItem, type Lane } from './gridItems.ts';
import { LAYER_ROCK } from './itemLook.ts';

/** More layers than this are one ridge. */
export const MOST_LANES = LAYER_ROCK.length;
const LEAST_PX = 3;

/** How wide one lane is in a day of some width. Pixels. */
const oneLane = (dayPx: number): number => (dayPx > 200 ? 22 : dayPx > 120 ? 14 : 8);
const ridgeOf = (dayPx: number): number => (dayPx > 200 ? 40 : dayPx > 120 ? 26 : 14);

/** How much of a day others' lanes take at its side. Pixels. */
export const laneWidth = (count: number, dayPx: number): number =>
  count === 0 ? 0 : (count > MOST_LANES ? ridgeOf(dayPx) : count * oneLane(dayPx)) + 3;

/** Others' taken time in thin lanes at a day's side, one a layer; of many layers how many are taken, as a ridge. */
export const LayerLanes = memo(function LayerLanes({
  lanes,
  day,
  y,
  widthPx,
  press,
  onOpen,
}: {
  lanes: readonly Lane[];
  day: Interval;
  y: (instant: number) => number;
  widthPx: number;
  press: (event: PointerEvent, grip: Grip | 'over', item: GridItem | null) => void;
  onOpen: (item: GridItem) => void;
}) {
  const me = useMe();
  if (lanes.length > MOST_LANES)
    return <LayerRidge lanes={lanes} day={day} y={y} px={ridgeOf(widthPx)} />;
  const px = oneLane(widthPx);
  return lanes.map((lane, at) => (
    <div
      key={lane.key}
      data-lane={lane.key}
      className={`absolute inset-y-0 ${lane.unknown ? 'unknown' : ''}`}
      style={{ width: px - 2, right: 1 + (lanes.length - 1 - at) * px }}
      title={lane.unknown ?? undefined}
    >
      {takenIn(lane, day).map((item) => {
        const said = `${nameOf(item)}, ${formatSpan(item, me.zone, me.clock)}`;
        const [start, end] = [Math.max(item.start, day.start), Math.min(item.end, day.end)];
        return (
          <button
            key={item.key}
            type="button"
            data-item={item.key}
            aria-label={said}
            title={said}
            onClick={() => item.eventId && onOpen(item)}
            onPointerDown={(event) => press(event, 'over', item)}
            className={`item absolute inset-x-0 rounded-[2px] hover:outline-2 hover:-outline-offset-1 hover:outline-ink-2 ${item.occupancy === 'tentative' ? 'rock-tentative' : item.occupancy === 'away' ? 'rock-away' : LAYER_ROCK[at]} ${item.faint ? 'opacity-35' : ''} ${item.eventId ? '' : 'cursor-default'}`}
            style={{ top: y(start) + 0.5, height: Math.max(LEAST_PX, y(end) - y(start) - 1) }}
          />
        );
      })}
    </div>
  ));
});

/** What of a lane takes time in a day; whole days stand above it. */
const takenIn = (lane: Lane, day: Interval): GridItem[] =>
  lane.items.filter((item) => !isBar(item) && !isBand(item) && overlaps(item, day));

/** How many of the layers are taken, moment by moment, as a ridge that grows from the day's side. */
function LayerRidge({
  lanes,
  day,
  y,
  px,
}: {
  lanes: readonly Lane[];
  day: Interval;
  y: (instant: number) => number;
  px: number;
}) {
  const steps = ridgeSteps(
    lanes.map((lane) => takenIn(lane, day)),
    day,
  );
  const height = y(day.end);
  const width = (count: number) => (count / lanes.length) * px;
  const path = steps
    .map(({ start, end, count }) => `V${y(start)}H${px - width(count)}V${y(end)}H${px}`)
    .join('');
  return (
    <svg
      aria-hidden="true"
      className="pointer-events-none absolute top-0 right-0"
      width={px}
      height={height}
    >
      <path d={`M${px} 0${path}V${height}H${px}Z`} fill="var(--ridge)" />
    </svg>
  );
}

/** Spans of a day with how many of some lists have something in them; none where it is nobody. */
export function ridgeSteps(
  lists: readonly (readonly Interval[])[],
  day: Interval,
): (Interval & { count: number })[] {
  const changes: { at: number; by: number }[] = [];
  for (const list of lists) {
    // One list counts once, however much stands in it at once.
    let end = Number.NEGATIVE_INFINITY;
    let start = Number.NEGATIVE_INFINITY;
    const close = () => {
      if (end > start) changes.push({ at: start, by: 1 }, { at: end, by: -1 });
    };
    for (const span of [...list].sort((a, b) => a.start - b.start)) {
      const [from, to] = [Math.max(span.start, day.start), Math.min(span.end, day.end)];
      if (from > end) {
        close();
        [start, end] = [from, to];
      } else end = Math.max(end, to);
    }
    close();
  }
  changes.sort((a, b) => a.at - b.at);
  const steps: (Interval & { count: number })[] = [];
  let count = 0;
  changes.forEach(({ at, by }, k) => {
    count += by;
    const next = changes[k + 1]?.at ?? at;
    if (count > 0 && next > at) steps.push({ start: at, end: next, count });
  });
  return steps;
}
