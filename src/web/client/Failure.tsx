import { Button } from '../design/controls.tsx';
import { errorText } from './api.ts';

/** A failure in words, with a way to try again. */
export function Failure({ error, retry }: { error: unknown; retry?: () => void }) {
  return (
    <div role="alert" className="rounded-sm bg-glow-wash px-4 py-3">
      <p className="font-semibold">{errorText(error)}</p>
      {retry && (
        <Button look="quiet" onClick={retry}>
          Try again
        </Button>
      )}
    </div>
  );
}
