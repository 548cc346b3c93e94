import { counted } from '../../core/counted.ts';
import { timedPoints } from '../../core/meetings/agenda.ts';
import { formatLength } from '../../core/time/format.ts';
import { MINUTE, type Interval } from '../../core/time/interval.ts';

const BLOCKS = 'p, li, h3, h4';

/** The lines of text that the server has cleaned. */
const linesOf = (html: string): string[] =>
  [...new DOMParser().parseFromString(html, 'text/html').querySelectorAll(BLOCKS)]
    .filter((block) => !block.querySelector(BLOCKS))
    .map((block) => block.textContent ?? '');

/** How the points of an agenda fill the meeting, where they say how long they take. */
export function AgendaLength({ html, span }: { html: string; span: Interval }) {
  const points = timedPoints(linesOf(html));
  if (points.length === 0) return null;
  const length = (span.end - span.start) / MINUTE;
  const taken = points.reduce((sum, { minutes }) => sum + minutes, 0);
  const isOver = taken > length;
  const whole = Math.max(length, taken);
  let before = 0;
  return (
    <div className="mb-1.5">
      <p
        className={`text-right text-xs font-semibold ${isOver ? 'text-alpenglow' : 'text-lichen-ink'}`}
      >
        {formatLength(taken * MINUTE)} of {formatLength(length * MINUTE)}
        <span className="sr-only">
          {' '}
          for {counted(points.length, 'point')}
          {isOver && ', more than there is'}
        </span>
      </p>
      <div aria-hidden="true" className="mt-0.5 flex h-[7px] gap-0.5 bg-closed">
        {points.map(({ words, minutes }, k) => {
          before += minutes;
          const look =
            before > length ? 'bg-alpenglow' : k % 2 === 0 ? 'bg-gentian' : 'bg-gentian/65';
          return (
            <i
              key={`${k} ${words}`}
              title={`${words}, ${formatLength(minutes * MINUTE)}`}
              className={look}
              style={{ width: `${(minutes / whole) * 100}%` }}
            />
          );
        })}
      </div>
    </div>
  );
}
