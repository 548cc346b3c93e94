import { Search } from 'lucide-react';
import { useState } from 'react';
import { AmountField } from '../design/AmountField.tsx';
import { Button, Field, IconButton, TextArea, TextInput } from '../design/controls.tsx';
import { Hint } from '../design/Hint.tsx';
import { Initials } from '../design/Initials.tsx';
import { SearchSelect } from '../design/SearchSelect.tsx';
import { Select } from '../design/Select.tsx';
import { Options, Switch, Tick } from '../design/ticks.tsx';
import { AnyOf, OneOf } from '../design/Toggles.tsx';
import { Part } from './Part.tsx';

const HOW = [
  { value: 'busy', words: 'taken' },
  { value: 'tentative', words: 'perhaps taken' },
  { value: 'free', words: 'still free' },
];
const ZONES = [
  {
    heading: 'Near to you',
    options: [{ value: 'Europe/Oslo', words: 'Bergen (Europe/Oslo)' }],
  },
  { heading: 'All others', options: [{ value: 'Africa/Nairobi', words: 'Africa/Nairobi' }] },
];

/** What is typed, picked, ticked and pressed, in each of its states. */
export function ControlParts() {
  return (
    <>
      <Part title="Buttons">
        {(['act', 'plain', 'quiet', 'danger'] as const).map((look) => (
          <span key={look} className="flex gap-2">
            <Button look={look}>{look}</Button>
            <Button look={look} disabled>
              {look}, not now
            </Button>
          </span>
        ))}
        <IconButton label="Find">
          <Search size={18} aria-hidden="true" />
        </IconButton>
        <IconButton label="Find, small" small>
          <Search size={14} aria-hidden="true" />
        </IconButton>
        <IconButton label="Find, not now" disabled>
          <Search size={18} aria-hidden="true" />
        </IconButton>
        <Hint words="Said beside it">
          <Button>With a hint</Button>
        </Hint>
        <Initials name="Ines Aldabe" />
        <Initials name="Gannet" square />
      </Part>
      <Part title="Fields">
        <Field label="Title" className="w-60">
          <TextInput placeholder="What is it about?" />
        </Field>
        <Field label="Start" hint="10:45, 1045 or 10:45am" className="w-60">
          <TextInput defaultValue="10:45" />
        </Field>
        <Field label="End" error="must be later than the start" className="w-60">
          <TextInput aria-invalid defaultValue="10:30" />
        </Field>
        <Field label="Note" className="w-60">
          <TextArea rows={2} />
        </Field>
        <Amounts />
      </Part>
      <Part title="Selects">
        <Selects />
      </Part>
      <Part title="Ticks, switches and options">
        <Ticks />
      </Part>
      <Part title="Toggles">
        <Toggles />
      </Part>
    </>
  );
}

function Amounts() {
  const [value, setValue] = useState(3);
  return (
    <>
      <AmountField label="Times" value={value} least={0} most={9} onChange={setValue} />
      <AmountField label="The least" value={1} least={1} most={9} onChange={() => undefined} />
    </>
  );
}

function Selects() {
  const [how, setHow] = useState('busy');
  const [zone, setZone] = useState('Europe/Oslo');
  return (
    <>
      <Field label="My time" className="w-52">
        <Select value={how} onChange={setHow} options={HOW} />
      </Field>
      <Select
        question="My time then"
        className="w-56"
        value={how}
        onChange={setHow}
        options={HOW}
      />
      <Select
        question="Not to be changed"
        className="w-56"
        disabled
        value={how}
        onChange={setHow}
        options={HOW}
      />
      <Select look="chip" question="Chip" value={how} onChange={setHow} options={HOW} />
      <p>
        My time is{' '}
        <Select look="word" question="In a sentence" value={how} onChange={setHow} options={HOW} />.
      </p>
      <Field label="Time zone" className="w-60">
        <SearchSelect
          value={zone}
          onChange={setZone}
          groups={ZONES}
          placeholder="A city or a zone"
        />
      </Field>
    </>
  );
}

function Ticks() {
  const [on, setOn] = useState(true);
  const [part, setPart] = useState<'one' | 'all'>('one');
  return (
    <>
      <Tick label="Tell everyone" on={on} onChange={setOn} />
      <Tick label="Not ticked" on={!on} onChange={(now) => setOn(!now)} />
      <Tick label="Not to be changed" on disabled onChange={() => undefined} />
      <Switch label="Whole days" on={on} onChange={setOn} />
      <Switch label="Off" on={!on} onChange={(now) => setOn(!now)} />
      <Switch label="Off for now" on={false} disabled onChange={() => undefined} />
      <Options
        label="For"
        value={part}
        onChange={setPart}
        options={[
          ['one', 'Only Thu 26 Nov'],
          ['all', 'The whole series'],
        ]}
      />
    </>
  );
}

function Toggles() {
  const [way, setWay] = useState('week');
  const [days, setDays] = useState<string[]>(['MO']);
  const ways = [
    { value: 'day', words: 'Day' },
    { value: 'week', words: 'Week' },
  ];
  return (
    <>
      <OneOf label="View" look="ways" value={way} onChange={setWay} options={ways} />
      <OneOf label="Arrangement" value={way} onChange={setWay} options={ways} />
      <AnyOf
        label="On these days"
        look="days"
        value={days}
        onChange={setDays}
        options={[
          { value: 'MO', words: 'Mo', name: 'Monday' },
          { value: 'TU', words: 'Tu', name: 'Tuesday' },
        ]}
      />
    </>
  );
}
