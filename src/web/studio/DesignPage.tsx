import { useState, type ReactNode } from 'react';
import { ApiProblem, applyTheme, Failure, setTheme } from '../app/index.ts';
import { Button, Field, PartHeading, TextArea, TextInput } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { Select } from '../design/Select.tsx';
import { Panel } from '../design/Panel.tsx';
import { Empty, Loading } from '../design/states.tsx';
import { Toasts } from '../design/Toasts.tsx';
import { ReplyMark, REPLY_WORDS } from '../invitations/index.ts';

const COLOURS = [
  'paper',
  'sheet',
  'edge',
  'closed',
  'ridge',
  'ink',
  'ink-2',
  'rock',
  'lichen',
  'lichen-wash',
  'gentian',
  'gentian-wash',
  'alpenglow',
  'glow-wash',
];
const PATTERNS = ['rock', 'rock-tentative', 'rock-away', 'unknown', 'bg-closed', 'bg-lichen'];
const REFUSAL = new ApiProblem({
  type: 'about:blank',
  title: '',
  status: 409,
  code: 'x',
  detail: 'Gannet is taken by Mika Sandoval until 11:00.',
});

/** Every token and primitive in each of its states; there in development only. */
export function DesignPage() {
  const [open, setOpen] = useState(false);
  const theme = (name: 'light' | 'dark') => {
    setTheme(name);
    applyTheme();
  };
  return (
    <main className="mx-auto grid max-w-4xl gap-8 p-8">
      <h1 className="text-3xl">Marmot’s parts</h1>
      <div className="flex gap-2">
        <Button onClick={() => theme('light')}>Light</Button>
        <Button onClick={() => theme('dark')}>Dark</Button>
      </div>
      <Part title="Colours">
        {COLOURS.map((name) => (
          <Swatch key={name} name={name} style={{ background: `var(--${name})` }} />
        ))}
      </Part>
      <Part title="Patterns">
        {PATTERNS.map((name) => (
          <Swatch key={name} name={name} className={name} />
        ))}
      </Part>
      <Part title="Buttons">
        {(['act', 'plain', 'quiet', 'danger'] as const).map((look) => (
          <span key={look} className="flex gap-2">
            <Button look={look}>{look}</Button>
            <Button look={look} disabled>
              {look}, not now
            </Button>
          </span>
        ))}
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
        <Field label="Shows as" className="w-60">
          <Select
            value="taken"
            onChange={() => undefined}
            options={[{ value: 'taken', words: 'taken' }]}
          />
        </Field>
        <Field label="Note" className="w-60">
          <TextArea rows={2} />
        </Field>
      </Part>
      <Part title="Replies">
        {(['accepted', 'tentative', 'declined', 'needs-action'] as const).map((reply) => (
          <span key={reply} className="flex items-center gap-2">
            <ReplyMark reply={reply} /> {REPLY_WORDS[reply]}
          </span>
        ))}
      </Part>
      <Part title="States">
        <Empty title="Nothing yet">What the view is for, and the first step.</Empty>
        <Loading what="the week" />
        <Failure error={REFUSAL} retry={() => undefined} />
      </Part>
      <Part title="Panel and message">
        <Button onClick={() => setOpen(true)}>Open the panel</Button>
        <Button
          onClick={() => tellUser('“Kelp review” is cancelled.', () => tellUser('It is on again.'))}
        >
          Show a message
        </Button>
      </Part>
      <Panel open={open} onClose={() => setOpen(false)} title="A panel">
        What belongs to the place it was opened from.
      </Panel>
      <Toasts />
    </main>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section>
      <PartHeading>{title}</PartHeading>
      <div className="flex flex-wrap items-start gap-4">{children}</div>
    </section>
  );
}

function Swatch({
  name,
  className = '',
  style,
}: {
  name: string;
  className?: string;
  style?: React.CSSProperties;
}) {
  return (
    <span className="text-xs">
      <i className={`block h-12 w-24 border border-edge ${className}`} style={style} />
      {name}
    </span>
  );
}
