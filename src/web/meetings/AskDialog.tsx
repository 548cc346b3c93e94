import { useState } from 'react';
import type { Scope } from '../../contract/events.ts';
import { useKeptText } from '../client/index.ts';
import { Button, Field, TextArea } from '../design/controls.tsx';
import { QuestionDialog } from '../design/QuestionDialog.tsx';
import { PartChoice } from './PartChoice.tsx';

/** What has to be known before something that touches others, or a series, is done. */
export interface Question {
  /** What is about to happen: `Move “Kelp review” to Thu 26 Nov 14:00–14:45`. */
  title: string;
  /** Start of the occurrence, for a series; null for a single event. */
  seriesStart: number | null;
  /** People besides me who would be told. */
  others: number;
  /** The word on the button: `Move`. */
  verb: string;
  /** What else comes of it, a sentence each. */
  remarks?: readonly string[];
  act: (answer: { scope: Scope; tell: 'everyone' | 'nobody'; message: string }) => void;
}

/** Asks which part of a series is meant, and whom to tell, before anything is done. */
export function AskDialog({ question, onClose }: { question: Question; onClose: () => void }) {
  const [scope, setScope] = useState<Scope>('one');
  // Who leaves the question finds what they wrote when it is asked again.
  const [message, setMessage, messageSent] = useKeptText(`ask ${question.title}`);
  const people = question.others === 1 ? '1 person' : `${question.others} people`;
  const answer = (tell: 'everyone' | 'nobody') => {
    question.act({ scope: question.seriesStart === null ? 'all' : scope, tell, message });
    messageSent();
    onClose();
  };
  return (
    <QuestionDialog title={question.title} onClose={onClose}>
      {question.remarks?.map((one) => (
        <p key={one} className="font-semibold">
          {one}
        </p>
      ))}
      {question.seriesStart !== null && (
        <PartChoice start={question.seriesStart} value={scope} onChange={setScope} />
      )}
      {question.others > 0 && (
        <Field label="Message to them">
          <TextArea
            rows={2}
            maxLength={2000}
            value={message}
            onChange={(event) => setMessage(event.target.value)}
          />
        </Field>
      )}
      <div className="flex flex-wrap gap-2">
        {question.others > 0 ? (
          <>
            <Button look="act" onClick={() => answer('everyone')}>
              {question.verb} and tell {people}
            </Button>
            <Button onClick={() => answer('nobody')}>{question.verb} without telling anyone</Button>
          </>
        ) : (
          <Button look="act" onClick={() => answer('nobody')}>
            {question.verb}
          </Button>
        )}
        <Button look="quiet" onClick={onClose}>
          Leave it as it is
        </Button>
      </div>
    </QuestionDialog>
  );
}
