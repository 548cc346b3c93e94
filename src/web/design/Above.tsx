import { useEffect, useState, type ReactNode } from 'react';
import { createPortal } from 'react-dom';

const PLACE = 'above-the-view';

/** Where a view shows what spans it and the panel beside it. */
export const PlaceAboveTheView = () => <div id={PLACE} className="no-print contents" />;

/** Shown above the view and the panel beside it, over their whole width. */
export function AboveTheView({ children }: { children: ReactNode }) {
  const [place, setPlace] = useState(() => document.getElementById(PLACE));
  useEffect(() => setPlace(document.getElementById(PLACE)), []);
  return place && createPortal(children, place);
}
