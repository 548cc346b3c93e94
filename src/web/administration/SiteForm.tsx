import { useState } from 'react';
import type { SiteDetail } from '../../contract/administration.ts';
import { partInWords } from '../../core/time/dayOffWords.ts';
import type { Shift } from '../../core/time/workingHours.ts';
import { isDate } from '../../core/time/wall.ts';
import { isZone } from '../../core/time/zones.ts';
import { zoneCity } from '../../core/time/format.ts';
import { ApiProblem, errorText } from '../client/index.ts';
import { Button, Field, TextArea, TextInput } from '../design/controls.tsx';
import { WeekHours, ZoneField } from '../time/index.ts';
import { FloorsField, type Floor } from './FloorsField.tsx';
import { HolidayFile } from './HolidayFile.tsx';
import { useSaveSite } from './useAdministration.ts';

const OWN_ZONE = Intl.DateTimeFormat().resolvedOptions().timeZone;
const OFFICE: Shift[][] = [1, 2, 3, 4, 5, 6, 7].map((day) =>
  day < 6 ? [{ start: 540, end: 1020 }] : [],
);

const linesOf = (holidays: SiteDetail['holidays']) =>
  holidays
    .map(({ date, name, part }) =>
      [date, part && partInWords(part, '24'), name].filter(Boolean).join(' '),
    )
    .join('\n');

/** Holidays a line each, `2026-12-25 Christmas Day` or `2026-12-24 from 12:00 Christmas Eve`; the lines that are none. */
function readHolidays(text: string): { holidays: SiteDetail['holidays']; wrong: string[] } {
  const holidays: SiteDetail['holidays'] = [];
  const wrong: string[] = [];
  for (const line of text.split('\n').map((one) => one.trim())) {
    if (!line) continue;
    const [date = '', ...words] = line.split(/\s+/);
    const { part, rest } = readPart(words.join(' '));
    if (isDate(date) && rest !== '' && part !== null)
      holidays.push({ date, name: rest, ...(part && { part }) });
    else wrong.push(line);
  }
  return { holidays, wrong };
}

const PART =
  /^(?:(from|until) (\d{1,2}):(\d{2})|(\d{1,2}):(\d{2})\s*[–-]\s*(\d{1,2}):(\d{2}))(?:\s+|$)/i;

/** What of a day is off, where something is said of it, and the rest of the words; null where it is no time. */
function readPart(words: string): { part: Shift | undefined | null; rest: string } {
  const [all = '', way, hour, minute, fromHour, fromMinute, toHour, toMinute] =
    PART.exec(words) ?? [];
  if (all === '') return { part: undefined, rest: words };
  const at = (h: string | undefined, m: string | undefined) => Number(h) * 60 + Number(m);
  const part = way
    ? way.toLowerCase() === 'from'
      ? { start: at(hour, minute), end: 1440 }
      : { start: 0, end: at(hour, minute) }
    : { start: at(fromHour, fromMinute), end: at(toHour, toMinute) };
  const isPart = part.start < part.end && part.end <= 1440 && part.end - part.start < 1440;
  return { part: isPart ? part : null, rest: words.slice(all.length) };
}

/** A site: what it is called, where it is, when people work there, and its holidays. */
export function SiteForm({
  site,
  onSaved,
  verb = 'Keep',
}: {
  site: SiteDetail | null;
  onSaved: () => void;
  verb?: string;
}) {
  const [draft, setDraft] = useState({
    name: site?.name ?? '',
    city: site?.city ?? (isZone(OWN_ZONE) && OWN_ZONE !== 'UTC' ? zoneCity(OWN_ZONE) : ''),
    zone: site?.zone ?? (isZone(OWN_ZONE) ? OWN_ZONE : 'UTC'),
    hours: site ? site.hours.map((day) => [...day]) : OFFICE,
    holidays: linesOf(site?.holidays ?? []),
    floors: (site?.floors ?? []) as Floor[],
  });
  const put = (part: Partial<typeof draft>) => setDraft({ ...draft, ...part });
  const save = useSaveSite(onSaved);
  const { holidays, wrong } = readHolidays(draft.holidays);
  const problem = (field: string) =>
    save.error instanceof ApiProblem ? save.error.field(field) : undefined;
  return (
    <form
      noValidate
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        if (wrong.length > 0) return;
        save.mutate({
          id: site?.id ?? null,
          version: site?.version ?? 1,
          site: { ...draft, holidays, ...(site && { floors: draft.floors }) },
        });
      }}
    >
      <Field label="What it is called" error={problem('name')}>
        <TextInput
          maxLength={120}
          value={draft.name}
          placeholder="Slip House"
          onChange={(event) => put({ name: event.target.value })}
        />
      </Field>
      <Field label="City" error={problem('city')}>
        <TextInput
          maxLength={120}
          value={draft.city}
          onChange={(event) => put({ city: event.target.value })}
        />
      </Field>
      <ZoneField label="Time zone" value={draft.zone} onChange={(zone) => put({ zone })} />
      <WeekHours
        legend="Working hours"
        remark="What new people there begin with; each changes their own."
        hours={draft.hours}
        onChange={(hours) => put({ hours })}
      />
      <Field
        label="Holidays"
        error={
          problem('holidays') ??
          (wrong.length > 0
            ? `“${wrong[0]}” is none: a date such as 2026-12-25, and what it is called.`
            : undefined)
        }
        hint="One a line: 2026-12-25 Christmas Day, or 2026-12-24 from 12:00 Christmas Eve"
      >
        <TextArea
          rows={5}
          value={draft.holidays}
          onChange={(event) => put({ holidays: event.target.value })}
        />
      </Field>
      <HolidayFile
        zone={draft.zone}
        there={holidays}
        onRead={(all) =>
          put({ holidays: [linesOf(all), ...wrong].filter((line) => line !== '').join('\n') })
        }
      />
      {site && (
        <FloorsField
          value={draft.floors}
          error={problem('floors')}
          onChange={(floors) => put({ floors })}
        />
      )}
      {save.isError && (
        <p role="alert" className="rounded-sm bg-glow-wash px-3 py-2 font-semibold">
          {errorText(save.error)}
        </p>
      )}
      <Button look="act" type="submit" disabled={save.isPending}>
        {verb}
      </Button>
    </form>
  );
}
