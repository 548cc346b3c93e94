import { Button } from '../design/controls.tsx';

/** That a form goes on where it was left, and the way to begin it anew. */
export function GoOn({ startAfresh }: { startAfresh: () => void }) {
  return (
    <p
      role="status"
      className="flex flex-wrap items-center justify-between gap-x-3 rounded-sm bg-lichen-wash/50 px-3 py-1.5"
    >
      You go on where you left it.
      <Button look="quiet" onClick={startAfresh}>
        Start afresh
      </Button>
    </p>
  );
}
