import { useState } from 'react';
import { ApiProblem, applyTheme, Failure, setTheme } from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { BesideTheView, Panel } from '../design/Panel.tsx';
import { QuestionDialog } from '../design/QuestionDialog.tsx';
import { Empty, Loading, Outline } from '../design/states.tsx';
import { Toasts } from '../design/Toasts.tsx';
import { ReplyMark, REPLY_WORDS } from '../invitations/index.ts';
import { ControlParts } from './ControlParts.tsx';
import { Part } from './Part.tsx';

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
  const [asking, setAsking] = useState(false);
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
      <ControlParts />
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
        <div className="w-72">
          <Outline what="a list" rows={2} />
        </div>
        <Failure error={REFUSAL} retry={() => undefined} />
      </Part>
      <Part title="Panel, message and question">
        <Button onClick={() => setOpen(true)}>Open the panel</Button>
        <Button
          onClick={() => tellUser('“Kelp review” is cancelled.', () => tellUser('It is on again.'))}
        >
          Show a message
        </Button>
        <Button onClick={() => setAsking(true)}>Ask a question</Button>
      </Part>
      {asking && (
        <QuestionDialog title="Cancel “Kelp review”?" onClose={() => setAsking(false)}>
          <Button look="act" onClick={() => setAsking(false)}>
            Cancel it and tell 3 people
          </Button>
        </QuestionDialog>
      )}
      <Panel open={open} onClose={() => setOpen(false)} title="A panel">
        What belongs to the place it was opened from.
      </Panel>
      <BesideTheView />
      <Toasts />
    </main>
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
