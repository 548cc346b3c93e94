import { Button } from './controls.tsx';
import { QuestionDialog } from './QuestionDialog.tsx';

/** Asks once more before something that is most likely a slip. */
export function SureDialog({
  title,
  words,
  verb,
  onSure,
  onClose,
}: {
  title: string;
  words: string;
  /** What the button does: `Send it all the same`. */
  verb: string;
  onSure: () => void;
  onClose: () => void;
}) {
  return (
    <QuestionDialog title={title} onClose={onClose}>
      <p>{words}</p>
      <div className="flex flex-wrap gap-2">
        <Button
          look="act"
          onClick={() => {
            onClose();
            onSure();
          }}
        >
          {verb}
        </Button>
        <Button look="quiet" onClick={onClose}>
          Leave it as it is
        </Button>
      </div>
    </QuestionDialog>
  );
}
