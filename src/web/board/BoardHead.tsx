import { formatMinute, type ClockStyle } from '../../core/time/format.ts';
import { MINUTE, type Interval } from '../../core/time/interval.ts';
import { usePhone } from '../design/usePhone.ts';
import { SNAP_MINUTES } from '../grid/index.ts';
import { NAMES } from './BoardLane.tsx';
import { laneHours, placeIn, shareOf, shownOf, type LaneScale } from './laneScale.ts';

/** Of the ridge, in its own units. */
const HEIGHT = 44;
const WIDTH = 1000;

/** The hours above the lanes, and the ridge of how many of the fitting places are free. */
export function BoardHead({
  hours,
  clock,
  free,
  most,
  chosen,
  words,
}: {
  hours: LaneScale;
  clock: ClockStyle;
  /** How many are free in each quarter of an hour; null where there is but one place. */
  free: readonly number[] | null;
  most: number;
  chosen: Interval | null;
  words: string;
}) {
  const every = usePhone() ? 4 : 1;
  const marks = laneHours(hours).filter((_, k) => k % every === 0);
  const brief = (hour: number) =>
    clock === '12'
      ? formatMinute(hour * 60, clock).replace(':00', '')
      : formatMinute(hour * 60, clock).slice(0, 2);
  // Of several days the hours are those of each; quarters and what is chosen are those of one.
  const first = { hours, day: hours.scale.days[0]! };
  const window = shownOf(first);
  const place = chosen && placeIn({ ...first, window }, chosen);
  const edge = (quarter: number) =>
    (shareOf(first, window.start + quarter * SNAP_MINUTES * MINUTE) * WIDTH).toFixed(1);
  return (
    <div className="flex" aria-hidden="true">
      <span className={`${NAMES} self-end pb-1 pl-6 leading-tight max-sm:pl-3`}>
        {free && (
          <>
            <span className="block font-semibold">{words}</span>
            <span className="block text-[11px] text-ink-2 max-sm:hidden">free at each quarter</span>
          </>
        )}
      </span>
      <div className="relative flex-1">
        <div className="relative h-5 text-[11.5px] text-ink-2">
          {marks.map(({ share, hour }) => (
            <span
              key={share}
              className={`absolute top-0.5 ${share === 0 ? '' : '-translate-x-1/2'}`}
              style={{ left: `${share * 100}%` }}
            >
              {brief(hour)}
            </span>
          ))}
        </div>
        {free && (
          <svg
            viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
            preserveAspectRatio="none"
            width="100%"
            height={HEIGHT}
            className="block"
          >
            <path
              d={`M0 ${HEIGHT}${free
                .map((n, k) => {
                  const y = HEIGHT - (most > 0 ? (n / most) * (HEIGHT - 4) : 0);
                  return `L${edge(k)} ${y}L${edge(k + 1)} ${y}`;
                })
                .join('')}L${WIDTH} ${HEIGHT}Z`}
              fill="var(--ridge)"
            />
          </svg>
        )}
        {place && <i className="absolute top-5 bottom-0 border-2 border-gentian" style={place} />}
      </div>
    </div>
  );
}
