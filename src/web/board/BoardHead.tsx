import { formatTime, type ClockStyle } from '../../core/time/format.ts';
import { HOUR, type Interval } from '../../core/time/interval.ts';
import { usePhone } from '../design/usePhone.ts';
import { placeOf } from '../grid/index.ts';
import { NAMES } from './BoardLane.tsx';

const HEIGHT = 44;

/** The hours above the lanes, and the ridge of how many of the fitting places are free. */
export function BoardHead({
  window,
  zone,
  clock,
  free,
  most,
  chosen,
  words,
}: {
  window: Interval;
  zone: string;
  clock: ClockStyle;
  /** How many are free in each quarter of an hour; null where there is but one place. */
  free: readonly number[] | null;
  most: number;
  chosen: Interval | null;
  words: string;
}) {
  const every = usePhone() ? 4 : 1;
  const count = Math.round((window.end - window.start) / HOUR);
  const hours = Array.from({ length: count }, (_, k) => k).filter((k) => k % every === 0);
  const brief = (instant: number) =>
    clock === '12'
      ? formatTime(instant, zone, clock).replace(':00', '')
      : formatTime(instant, zone, clock).slice(0, 2);
  const place = chosen && placeOf(chosen, window);
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
          {hours.map((k) => (
            <span
              key={k}
              className={`absolute top-0.5 ${k === 0 ? '' : '-translate-x-1/2'}`}
              style={{ left: `${(k / count) * 100}%` }}
            >
              {brief(window.start + k * HOUR)}
            </span>
          ))}
        </div>
        {free && (
          <svg
            viewBox={`0 0 ${Math.max(1, free.length)} ${HEIGHT}`}
            preserveAspectRatio="none"
            width="100%"
            height={HEIGHT}
            className="block"
          >
            <path
              d={`M0 ${HEIGHT}${free
                .map((n, k) => {
                  const y = HEIGHT - (most > 0 ? (n / most) * (HEIGHT - 4) : 0);
                  return `L${k} ${y}L${k + 1} ${y}`;
                })
                .join('')}L${free.length} ${HEIGHT}Z`}
              fill="var(--ridge)"
            />
          </svg>
        )}
        {place && <i className="absolute top-5 bottom-0 border-2 border-gentian" style={place} />}
      </div>
    </div>
  );
}
