import { useSession } from './session.ts';

/** Said on every page of a demonstration that is shown to anybody; nothing anywhere else. */
export function DemonstrationNote() {
  const { data } = useSession();
  if (!data?.publicDemonstration) return null;
  return (
    <p
      role="note"
      className="no-print bg-lichen-wash px-4 py-1 text-center text-sm max-sm:px-2 max-sm:text-xs"
    >
      This is a demonstration that anybody can enter and change.{' '}
      <span className="max-sm:hidden">
        Everyone in it is made up: put nothing of your own here.
      </span>
    </p>
  );
}
