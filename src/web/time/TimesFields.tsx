import { useState } from 'react';
import { zoneCity } from '../../core/time/format.ts';
import { parseTimeOfDay } from '../../core/time/typedTime.ts';
import { wallTimeAt } from '../../core/time/wall.ts';
import { useMe, useNow } from '../app/index.ts';
import { Button } from '../design/controls.tsx';
import { Switch } from '../design/ticks.tsx';
import { DayField } from './DayField.tsx';
import { TimeField } from './TimeField.tsx';
import { ZoneField } from './ZoneField.tsx';
import type { ReadTimes, TypedTimes } from './useTyped.ts';

/** Minutes after midnight at present in a zone. */
export function useNowMinutes(zone: string): number {
  const wall = wallTimeAt(useNow(), zone);
  return Number(wall.slice(11, 13)) * 60 + Number(wall.slice(14));
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
  const severalDays = !typed.allDay && typed.lastDate > typed.date;
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
            label="Zone of the start"
            value={typed.zone}
            onChange={(zone) => change({ zone })}
          />
          <ZoneField
            label="Zone of the end"
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
