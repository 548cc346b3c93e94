/**
 * A press that is meant for something which is gone by then: the second one of a double click, where the first
 * closed a dialog or answered a row. It does not reach what lies below, or has moved up.
 */
const SAME_MOMENT_MS = 400;
const SAME_SPOT_PX = 8;

interface Press {
  at: number;
  x: number;
  y: number;
  target: Element;
}

/** Whether something that was pressed is there no more, or on its way out. */
const isGone = (target: Element): boolean =>
  !target.isConnected || target.closest('[data-state="closed"]') !== null;

/**
 * Keeps second clicks from doing what a first one did, or what nobody meant.
 * @returns a function that ends it
 */
export function guardClicks(document: Document): () => void {
  let last: Press | null = null;
  let isSwallowing = false;
  const swallow = (event: Event) => {
    event.preventDefault();
    event.stopImmediatePropagation();
  };
  const press = (event: PointerEvent) => {
    const { target, timeStamp: at, clientX: x, clientY: y } = event;
    if (!(target instanceof Element)) return;
    const isSecond =
      last !== null &&
      at - last.at < SAME_MOMENT_MS &&
      Math.hypot(x - last.x, y - last.y) < SAME_SPOT_PX;
    isSwallowing = isSecond && isGone(last!.target);
    if (!isSwallowing) last = { at, x, y, target };
  };
  // Of clicks the browser itself says which is a second one.
  const follow = (event: MouseEvent) => {
    if (isSwallowing && event.detail > 1) swallow(event);
  };
  const click = (event: MouseEvent) => {
    if (event.detail < 2) return;
    const button = event.target instanceof Element && event.target.closest('button[data-once]');
    if (isSwallowing || button) swallow(event);
  };
  const capture = { capture: true };
  document.addEventListener('pointerdown', press, capture);
  document.addEventListener('mousedown', follow, capture);
  document.addEventListener('mouseup', follow, capture);
  document.addEventListener('dblclick', follow, capture);
  document.addEventListener('click', click, capture);
  return () => {
    document.removeEventListener('pointerdown', press, capture);
    document.removeEventListener('mousedown', follow, capture);
    document.removeEventListener('mouseup', follow, capture);
    document.removeEventListener('dblclick', follow, capture);
    document.removeEventListener('click', click, capture);
  };
}
