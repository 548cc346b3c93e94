import { useState, type ReactNode } from 'react';
import { formatTimeOfDay, parseLength, parseTimeOfDay } from '../../core/time/typedTime.ts';
import { NOTICE_KINDS, type NoticeKind } from '../../core/meetings/notices.ts';
import type { ChangePreferencesRequest } from '../../contract/preferences.ts';
import {
  ApiProblem,
  errorText,
  useChangePreferences,
  useMe,
  usePreferences,
} from '../client/index.ts';
import { WeekHours, ZoneField } from '../time/index.ts';
import { Button, Field, TextInput } from '../design/controls.tsx';
import { Select } from '../design/Select.tsx';
import { Account } from './Account.tsx';
import { Categories } from './Categories.tsx';
import { Delegates } from './Delegates.tsx';
import { RemindersField } from '../meetings/index.ts';

const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

const CLOCKS = [
  { value: '24', words: '24 hours, 14:30' },
  { value: '12', words: '12 hours, 2:30 pm' },
] as const;

const HEARD: Record<NoticeKind, string> = {
  invitations: 'Invitations, and reminders to answer them',
  changes: 'Changes and cancellations',
  answers: 'Answers to what I organize',
  'other-times': 'Other times that are asked for',
  comments: 'Comments',
  mentions: 'Comments that speak to me',
  places: 'What becomes of places I book or look after',
};

const SHIFTS = [
  { value: 0, words: 'to another place alone' },
  { value: 30, words: 'by half an hour, too' },
  { value: 60, words: 'by an hour, too' },
  { value: 120, words: 'by two hours, too' },
];

const HOW = [
  { value: 'now', words: 'at once' },
  { value: 'daily', words: 'in one letter a day, at seven' },
  { value: 'never', words: 'not at all' },
] as const;

/** How do I want my calendar? Whatever is changed holds at once, everywhere. */
export function PreferencesView() {
  const me = useMe();
  const preferences = usePreferences();
  const send = useChangePreferences();
  const [problem, setProblem] = useState<unknown>(null);
  const [saved, setSaved] = useState(false);
  const change = (request: ChangePreferencesRequest) => {
    setSaved(false);
    send(request).then(
      () => {
        setProblem(null);
        setSaved(true);
      },
      (error: unknown) => setProblem(error),
    );
  };
  const field = (name: string) => (problem instanceof ApiProblem ? problem.field(name) : undefined);
  return (
    <main className="mx-auto w-full max-w-4xl px-4 py-5 md:px-6">
      <div className="mb-5 flex items-baseline gap-4">
        <h1 className="text-[26px]">Preferences</h1>
        <span role="status" className="text-ink-2">
          {saved ? 'Saved.' : 'Changes are saved as you make them.'}
        </span>
      </div>
      {problem !== null && (
        <p role="alert" className="mb-4 rounded-sm bg-glow-wash px-4 py-3 font-semibold">
          {errorText(problem)}
        </p>
      )}
      <div className="grid grid-cols-[minmax(0,1fr)] gap-8">
        <Part title="Time">
          <div className="grid gap-4 md:grid-cols-2">
            <ZoneField label="Home zone" value={me.zone} onChange={(zone) => change({ zone })} />
            <Field label="Clock">
              <Select value={me.clock} onChange={(clock) => change({ clock })} options={CLOCKS} />
            </Field>
          </div>
          <FurtherZones
            zones={me.furtherZones}
            onChange={(furtherZones) => change({ furtherZones })}
          />
        </Part>
        <Part title="Week and hours">
          <div className="grid gap-4 md:grid-cols-3">
            <Field label="The week begins on">
              <Select
                value={preferences.firstWeekday}
                onChange={(firstWeekday) => change({ firstWeekday })}
                options={WEEKDAYS.map((words, k) => ({ value: k + 1, words }))}
              />
            </Field>
            <TypedField
              label="Show hours from"
              value={formatTimeOfDay(preferences.shownFrom)}
              parse={parseTimeOfDay}
              problem={field('shownFrom')}
              help="type a time such as 7:00"
              onChange={(shownFrom) => change({ shownFrom })}
            />
            <TypedField
              label="until"
              value={formatTimeOfDay(preferences.shownTo)}
              parse={(text) => (text.trim() === '24:00' ? 1440 : parseTimeOfDay(text))}
              problem={field('shownTo')}
              help="type a time such as 19:00"
              onChange={(shownTo) => change({ shownTo })}
            />
          </div>
          <WeekHours
            legend="My working hours"
            remark="Others see the rest as outside your hours, in their plans and in yours."
            hours={preferences.hours}
            onChange={(hours) => change({ hours })}
          />
        </Part>
        <Part title="New events">
          <TypedField
            label="Usual length"
            value={`${preferences.defaultMinutes} min`}
            parse={parseLength}
            problem={field('defaultMinutes')}
            help="type a length such as 45 min or 1h30"
            className="w-40"
            onChange={(defaultMinutes) => change({ defaultMinutes })}
          />
          <Field
            label="When a place of mine goes out of use, my booking may move"
            className="max-w-96"
          >
            <Select
              value={preferences.shiftMinutes}
              onChange={(shiftMinutes) => change({ shiftMinutes })}
              options={SHIFTS}
            />
          </Field>
          <RemindersField
            label="Remind me, unless said otherwise"
            value={preferences.defaultReminders}
            onChange={(defaultReminders) => change({ defaultReminders })}
          />
        </Part>
        <Part title="What you hear of" id="hearing">
          <p className="text-ink-2">
            At once is behind the bell, and by letter where a meeting is sent or changed. Whatever
            you choose, it stands in your calendar and in Today.
          </p>
          <div className="grid gap-3">
            {NOTICE_KINDS.map((kind) => (
              <Field key={kind} label={HEARD[kind]} className="grid items-center sm:grid-cols-2">
                <Select
                  value={preferences.hearing[kind]}
                  onChange={(how) => change({ hearing: { [kind]: how } })}
                  options={HOW}
                />
              </Field>
            ))}
          </div>
        </Part>
        <Part title="Who acts for me" id="delegates">
          <Delegates />
        </Part>
        <Part title="Categories" id="categories">
          <Categories />
        </Part>
        <Part title="Signing in" id="account">
          <Account />
        </Part>
      </div>
    </main>
  );
}

function Part({ title, id, children }: { title: string; id?: string; children: ReactNode }) {
  return (
    <section id={id} className="grid grid-cols-[minmax(0,1fr)] gap-4 border-t border-edge pt-4">
      <h2 className="text-lg">{title}</h2>
      {children}
    </section>
  );
}

/** A value typed freely, kept when it can be read. */
function TypedField({
  label,
  value,
  parse,
  problem,
  help,
  className = '',
  onChange,
}: {
  label: string;
  value: string;
  parse: (text: string) => number | null;
  problem: string | undefined;
  help: string;
  className?: string;
  onChange: (minutes: number) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  const wrong = text !== null && parse(text) === null;
  return (
    <Field label={label} error={wrong ? help : problem} className={className}>
      <TextInput
        value={text ?? value}
        aria-invalid={wrong}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => {
          const minutes = text === null ? null : parse(text);
          if (minutes === null) return;
          setText(null);
          onChange(minutes);
        }}
        onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      />
    </Field>
  );
}

function FurtherZones({
  zones,
  onChange,
}: {
  zones: readonly string[];
  onChange: (zones: string[]) => void;
}) {
  const me = useMe();
  const free = Object.keys(me.zoneNames).find((zone) => zone !== me.zone && !zones.includes(zone));
  return (
    <fieldset className="grid gap-2">
      <legend className="mb-1 font-semibold">Further zones, shown beside mine</legend>
      {zones.map((zone, k) => (
        <div key={zone} className="flex items-end gap-2">
          <div className="min-w-0 max-w-72 flex-1">
            <ZoneField
              label={`Further zone ${k + 1}`}
              value={zone}
              onChange={(next) => onChange([...new Set(zones.with(k, next))])}
            />
          </div>
          <Button
            look="quiet"
            aria-label={`Remove ${zone}`}
            onClick={() => onChange(zones.filter((one) => one !== zone))}
          >
            Remove
          </Button>
        </div>
      ))}
      {zones.length < 4 && (
        <Button className="justify-self-start" onClick={() => onChange([...zones, free ?? 'UTC'])}>
          Add a zone
        </Button>
      )}
    </fieldset>
  );
}
