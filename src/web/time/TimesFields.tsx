import { useState } from 'react';
import { formatDay, formatLength, zoneCity } from '../../core/time/format.ts';
import { MINUTE } from '../../core/time/interval.ts';
import { parseTimeOfDay } from '../../core/time/typedTime.ts';
import { addDays, wallTimeAt } from '../../core/time/wall.ts';
import { useMe, useNow } from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { Switch } from '../design/ticks.tsx';
import { DayField } from './DayField.tsx';
import { TimeField } from './TimeField.tsx';
import { ZoneField } from './ZoneField.tsx';
import { readTimes, type ReadTimes, type TypedTimes } from '../../core/time/typedTimes.ts';

/** Minutes after midnight at present in a zone. */
export function useNowMinutes(zone: string): number {
  const wall = wallTimeAt(useNow(), zone);
  return Number(wall.slice(11, 13)) * 60 + Number(wall.slice(14));
}

/** That it ends on another day than it begins, in words. */
function Night({ typed, now }: { typed: TypedTimes; now: number }) {
  const { times } = readTimes(typed, now);
  if (!times || times.allDay || times.startsAt.slice(0, 10) === times.endsAt.slice(0, 10))
    return null;
  const day = formatDay(Date.parse(`${times.endsAt.slice(0, 10)}T12:00Z`), 'UTC');
  const length = times.endZone === null && formatLength(typed.lengthMinutes * MINUTE);
  return (
    <p role="status" className="font-semibold">
      Ends on {day}
      {times.endsAt.slice(0, 10) === addDays(times.startsAt.slice(0, 10), 1) && ', the next day'}
      {length && `, ${length} after it begins`}.
    </p>
  );
}

/** Day, start and end, typed freely; further days and zones where they are wanted. */
export function TimesFields({
  typed,
  change,
  errors,
  allowAllDay = true,
  allowZones = false,
}: {
  typed: TypedTimes;
  change: (part: Partial<TypedTimes>) => void;
  errors: ReadTimes['errors'];
  allowAllDay?: boolean;
  allowZones?: boolean;
}) {
  const me = useMe();
  const now = useNowMinutes(typed.zone);
  const start = parseTimeOfDay(typed.start, now);
  const severalDays = !typed.allDay && typed.lastDate !== typed.date;
  const [zonesOpen, setZonesOpen] = useState(typed.zone !== me.zone || typed.endZone !== null);
  const [daysOpen, setDaysOpen] = useState(severalDays);
  return (
    <div className="grid gap-3">
      <div
        className={`grid items-start gap-2 ${typed.allDay ? 'grid-cols-2' : 'grid-cols-[1.8fr_1fr_1fr]'}`}
      >
        <DayField
          label={typed.allDay ? 'First day' : 'Day'}
          error={errors.date}
          value={typed.date}
          onChange={(date) => change({ date })}
        />
        {typed.allDay ? (
          <DayField
            label="Last day"
            error={errors.end}
            value={typed.lastDate}
            onChange={(lastDate) => change({ lastDate })}
          />
        ) : (
          <>
            <TimeField
              label="Start"
              value={typed.start}
              error={errors.start}
              clock={me.clock}
              now={now}
              onChange={(text) => change({ start: text })}
            />
            <TimeField
              label="End"
              value={typed.end}
              error={errors.end}
              clock={me.clock}
              now={now}
              after={typed.endZone === null ? start : null}
              onChange={(text) => change({ end: text })}
            />
          </>
        )}
      </div>
      <Night typed={typed} now={now} />
      {!typed.allDay && (daysOpen || severalDays) && (
        <DayField
          label="Last day"
          className="w-48"
          error={errors.end}
          value={typed.lastDate}
          onChange={(lastDate) => change({ lastDate })}
        />
      )}
      {allowZones && zonesOpen && !typed.allDay && (
        <div className="grid grid-cols-2 gap-2">
          <ZoneField
            label="Time zone of the start"
            value={typed.zone}
            onChange={(zone) => change({ zone })}
          />
          <ZoneField
            label="Time zone of the end"
            value={typed.endZone ?? typed.zone}
            onChange={(zone) => change({ endZone: zone === typed.zone ? null : zone })}
          />
        </div>
      )}
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        {allowAllDay && (
          <Switch label="Whole days" on={typed.allDay} onChange={(allDay) => change({ allDay })} />
        )}
        {allowAllDay && !typed.allDay && !daysOpen && !severalDays && (
          <Button look="quiet" onClick={() => setDaysOpen(true)}>
            Ends on another day
          </Button>
        )}
        {allowZones && !zonesOpen && !typed.allDay && (
          <Button look="quiet" onClick={() => setZonesOpen(true)}>
            In another time zone
          </Button>
        )}
        {typed.zone !== me.zone && (
          <span className="text-ink-2">Times are {zoneCity(typed.zone)} time.</span>
        )}
      </div>
    </div>
  );
}
