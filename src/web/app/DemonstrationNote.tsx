import { useSession } from './session.ts';

/** Said on every page of a demonstration that is shown to anybody; nothing anywhere else. */
export function DemonstrationNote() {
  const { data } = useSession();
  if (!data?.publicDemonstration) return null;
  return (
    <p role="note" className="no-print bg-lichen-wash px-4 py-1 text-center text-sm">
      This is a demonstration that anybody can enter and change. Everyone in it is made up: put
      nothing of your own here.
    </p>
  );
}
