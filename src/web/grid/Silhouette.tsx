import { memo } from 'react';
import type { Ridge } from '../../core/planner/ridge.ts';
import { MINUTE, type Interval } from '../../core/time/interval.ts';

/** The ridge of one part of a day. */
export interface Slice {
  people: number[];
  required: number[];
  places: number[];
  totals: Ridge['totals'];
}

export function sliceOf(ridge: Ridge, window: Interval): Slice {
  const step = ridge.grid.stepMinutes * MINUTE;
  const from = Math.max(0, Math.round((window.start - ridge.grid.first) / step));
  const to = Math.max(from, Math.round((window.end - ridge.grid.first) / step));
  return {
    people: [...ridge.people.slice(from, to)],
    required: [...ridge.required.slice(from, to)],
    places: [...ridge.places.slice(from, to)],
    totals: ridge.totals,
  };
}

const BAND_PX = 3;

/**
 * The ridge of one day. Its height is the number of free people; the dark line is that of required
 * ones; its crest is where all that is needed is free; the band below tells the places apart:
 * solid where all can be had, thin where some can.
 */
export const Silhouette = memo(function Silhouette({
  slice,
  height,
}: {
  slice: Slice;
  height: number;
}) {
  const { people, required, places, totals } = slice;
  const count = people.length;
  const band = totals.places > 0 ? BAND_PX + 1 : 0;
  const base = height - 1 - band;
  const y = (n: number) => base - (totals.people ? (n / totals.people) * (base - 4) : 0);
  const steps = (list: readonly number[]) => list.map((n, k) => `L${k} ${y(n)}L${k + 1} ${y(n)}`);
  const all = (k: number) =>
    totals.required + totals.places > 0 &&
    required[k] === totals.required &&
    places[k] === totals.places;
  let crest = '';
  let met = '';
  let some = '';
  for (let k = 0; k < count; k++) {
    if (all(k)) crest += `M${k} ${base}V${y(people[k]!)}H${k + 1}V${base}Z`;
    if (band === 0) continue;
    if (places[k] === totals.places) met += `M${k} ${height - BAND_PX}H${k + 1}V${height}H${k}Z`;
    else if (places[k]! > 0) some += `M${k} ${height - 1}H${k + 1}V${height}H${k}Z`;
  }
  // Where everyone is required the line would only repeat the edge.
  const line = totals.required < totals.people && totals.required > 0;
  return (
    <svg
      viewBox={`0 0 ${count} ${height}`}
      preserveAspectRatio="none"
      width="100%"
      height={height}
      aria-hidden="true"
      className="block"
    >
      <path d={`M0 ${base}${steps(people).join('')}L${count} ${base}Z`} fill="var(--ridge)" />
      <path d={crest} fill="var(--lichen)" />
      {line && (
        <path
          d={`M0 ${y(required[0] ?? 0)}${steps(required).join('')}`}
          fill="none"
          stroke="var(--ink)"
          strokeOpacity="0.75"
          strokeWidth="1.2"
          vectorEffect="non-scaling-stroke"
        />
      )}
      <path d={`M0 ${base}H${count}`} stroke="var(--edge)" vectorEffect="non-scaling-stroke" />
      <path d={met} fill="var(--lichen-ink)" fillOpacity="0.55" />
      <path d={some} fill="var(--rock-deep)" />
    </svg>
  );
});
