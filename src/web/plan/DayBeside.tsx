import { useMemo } from 'react';
import { listNames, givenName, openingReasons } from '../../core/planner/words.ts';
import { formatDay, formatSpan, formatTime } from '../../core/time/format.ts';
import { HOUR, MINUTE, type Interval } from '../../core/time/interval.ts';
import { dateAt, startOfDay } from '../../core/time/wall.ts';
import { Failure, useMe } from '../client/index.ts';
import { Button, PartHeading } from '../design/controls.tsx';
import { dayWindow, type Hours } from './days.ts';
import { DayLanes } from './DayLanes.tsx';
import { Ruler } from './Ruler.tsx';
import { Selection } from './Selection.tsx';
import { usePicker } from './usePicker.ts';
import { placeName } from './zoneNames.ts';
import { fitWords, type Gathering } from '../lineUp/index.ts';

const USUAL_HOURS: Hours = [7, 19];
const MOST_ZONES = 3;
/** What is under the pointer is not told here, other than in Plan. */
const notSaid = () => undefined;

/**
 * The day of everybody whom a meeting in the making needs, a lane each as in Plan: its time is drawn
 * in it, can be dragged, and what it runs into is said below, with what would be better.
 */
export function DayBeside({
  gathering,
  span,
  date,
  allDay,
  onSpan,
  toPlan,
}: {
  gathering: Gathering;
  span: Interval | null;
  /** The day in view, `YYYY-MM-DD` in the reader's zone. */
  date: string;
  allDay: boolean;
  onSpan: (span: Interval) => void;
  /** Opens Plan with all that is there. */
  toPlan: () => void;
}) {
  const me = useMe();
  const { members, reading } = gathering;
  const hours = useMemo(() => hoursAround(span, date, me.zone), [span, date, me.zone]);
  const window = useMemo(() => dayWindow(date, me.zone, hours), [date, me.zone, hours]);
  const minutes = span ? Math.round((span.end - span.start) / MINUTE) : 30;
  const picker = usePicker({ window, chosen: span, minutes, choose: onSpan, onHover: notSaid });
  const zones = [
    ...new Set([
      me.zone,
      ...members.filter((one) => one.kind === 'person' && !one.outside).map((one) => one.zone),
    ]),
  ].slice(0, MOST_ZONES);
  return (
    <section aria-label="The day of everybody" className="min-w-0">
      <h2 className="px-3 text-[17px]">{formatDay(window.start, me.zone)}</h2>
      <Ruler date={date} zones={zones} hours={hours} />
      {gathering.error ? (
        <Failure error={gathering.error} retry={gathering.retry} />
      ) : (
        <div className="[&_.h-5]:h-7" aria-busy={reading}>
          <DayLanes
            members={members}
            window={window}
            zone={me.zone}
            clock={me.clock}
            handlers={allDay ? {} : picker.handlers}
          >
            {reading && <i className="unread pointer-events-none absolute inset-0" />}
            <Selection span={picker.dragged ?? span} window={window} grips={!allDay} />
          </DayLanes>
        </div>
      )}
      <div className="grid gap-5 px-3 pt-1">
        {span && (
          <p role="status" className="min-h-10">
            <b className="font-semibold">
              {allDay ? 'All day' : formatSpan(span, me.zone, me.clock)}
            </b>
            {reading ? ': reading everybody’s time …' : <Fits gathering={gathering} span={span} />}
          </p>
        )}
        {!allDay && <Better gathering={gathering} onSpan={onSpan} span={span} toPlan={toPlan} />}
      </div>
    </section>
  );
}

/** `, free for Ines and Gannet. Outside Mika's hours.` */
function Fits({ gathering, span }: { gathering: Gathering; span: Interval }) {
  const me = useMe();
  const { members, fits, clashes } = gathering;
  const nameOf = (id: number) => {
    const member = members.find((one) => one.id === id)!;
    if (member.id === me.id) return 'you';
    return member.kind === 'person' && !member.outside ? givenName(member) : member.name;
  };
  const free = [...fits.values()].filter((fit) => fit.state === 'free').map((fit) => fit.id);
  const troubles = [...fits.values()].filter((fit) => fit.state !== 'free');
  return (
    <>
      {free.length > 0 && (
        <span>
          , free for{' '}
          {free.length === fits.size && fits.size > 1
            ? 'everybody'
            : listNames(free.map(nameOf), 6)}
        </span>
      )}
      .{' '}
      {troubles.map((fit) => {
        const member = members.find((one) => one.id === fit.id)!;
        const name = nameOf(fit.id);
        return (
          <span key={fit.id} className="font-semibold text-alpenglow">
            {name[0]!.toUpperCase() + name.slice(1)}:{' '}
            {fitWords(fit, member, span, me, clashes.get(fit.id))}.{' '}
          </span>
        );
      })}
    </>
  );
}

function Better({
  gathering,
  span,
  onSpan,
  toPlan,
}: {
  gathering: Gathering;
  span: Interval | null;
  onSpan: (span: Interval) => void;
  toPlan: () => void;
}) {
  const me = useMe();
  const { members, better } = gathering;
  const speech = { clock: me.clock, placeOf: (zone: string) => placeName(zone, me.zoneNames) };
  const shown = (better ?? []).filter((one) => one.start !== span?.start);
  return (
    <section aria-label="Better times">
      <PartHeading
        remark={
          <Button look="quiet" onClick={toPlan}>
            More times in Plan
          </Button>
        }
      >
        Good times that day and the next
      </PartHeading>
      {better === null ? (
        <p className="text-ink-2">Looking …</p>
      ) : shown.length === 0 ? (
        <p className="text-ink-2">
          No other time of these two days suits all. Plan looks further, and says who is in the way.
        </p>
      ) : (
        <ul className="grid gap-2 sm:grid-cols-2">
          {shown.map((opening) => (
            <li key={opening.start}>
              <button
                type="button"
                onClick={() => onSpan({ start: opening.start, end: opening.end })}
                className="block w-full border-l-[3px] border-lichen px-3 py-1 text-left hover:bg-lichen-wash max-sm:min-h-11"
              >
                <b className="font-semibold">
                  {formatDay(opening.start, me.zone)} {formatTime(opening.start, me.zone, me.clock)}
                </b>{' '}
                <span className="text-xs text-ink-2">
                  {openingReasons(opening, members, speech)
                    .map((reason) => reason.text)
                    .join('; ')}
                </span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** The usual hours of a day, widened to hold a time that reaches out of them. */
function hoursAround(span: Interval | null, date: string, zone: string): Hours {
  if (!span || dateAt(span.start, zone) !== date) return USUAL_HOURS;
  const midnight = startOfDay(date, zone);
  const from = Math.floor((span.start - midnight) / HOUR);
  const to = Math.ceil((span.end - midnight) / HOUR);
  if (to - from > 20) return USUAL_HOURS;
  return [Math.max(0, Math.min(USUAL_HOURS[0], from)), Math.min(24, Math.max(USUAL_HOURS[1], to))];
}
