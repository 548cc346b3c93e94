/**
 * Where the keys go when what had the focus goes: a row that was answered, a button that was done with. Else they
 * would fall to the page as a whole, and whoever works by keys would begin at its top again.
 */

const FOCUSABLE =
  'a[href], button:not([disabled]), input:not([disabled]), select:not([disabled]), textarea:not([disabled]), [tabindex]:not([tabindex="-1"])';

/** For so long what has become disabled may be at work, milliseconds. */
const AT_WORK_MS = 1500;

/** An element on the way from the page to what had the focus, with what stood beside it. */
interface Step {
  parent: Element;
  after: Element | null;
  before: Element | null;
}

interface Focused {
  element: HTMLElement;
  trail: Step[];
}

const trailOf = (element: Element): Step[] => {
  const trail: Step[] = [];
  for (let at: Element | null = element; at?.parentElement; at = at.parentElement)
    trail.push({
      parent: at.parentElement,
      after: at.nextElementSibling,
      before: at.previousElementSibling,
    });
  return trail;
};

const isVisible = (element: Element): boolean => element.getClientRects().length > 0;
const focusables = (within: Element): HTMLElement[] =>
  [...within.querySelectorAll<HTMLElement>(FOCUSABLE)].filter(isVisible);
const firstIn = (element: Element | null): HTMLElement | undefined => {
  if (!element?.isConnected) return undefined;
  return element.matches(FOCUSABLE) && isVisible(element)
    ? (element as HTMLElement)
    : focusables(element)[0];
};
const lastIn = (element: Element | null): HTMLElement | undefined =>
  element?.isConnected ? focusables(element).at(-1) : undefined;

/**
 * What took the place of something that is gone: what stood after it, before it, or around it; the view as a whole
 * where nothing of that is left, and never what comes before it on the page.
 */
function heirOf({ trail }: Focused): HTMLElement | null {
  const view = document.getElementById('view');
  for (const { parent, after, before } of trail) {
    if (parent.contains(view)) return view;
    if (!parent.isConnected) continue;
    const heir = firstIn(after) ?? lastIn(before) ?? focusables(parent)[0];
    if (heir) return heir;
  }
  return view;
}

/**
 * Gives the focus to what took the place of what had it, for whoever works by keys.
 * @returns a function that ends it
 */
export function keepFocus(document: Document): () => void {
  let last: Focused | null = null;
  let isByKeys = false;
  let frame = 0;
  let waiting: ReturnType<typeof setTimeout> | undefined;
  const isLost = () => document.activeElement === document.body || !document.activeElement;
  const look = () => {
    if (!last || !isByKeys || !isLost()) return;
    cancelAnimationFrame(frame);
    // What takes the place of something may take the focus by itself.
    frame = requestAnimationFrame(() => {
      frame = requestAnimationFrame(() => {
        if (!last || !isLost()) return;
        const { element } = last;
        // What is at work cannot have it, and gets it back once it is done.
        if (element.isConnected && element.matches(':disabled')) {
          clearTimeout(waiting);
          waiting = setTimeout(() => {
            // What is done with for good gets it back no more.
            if (last?.element !== element || !isLost()) return;
            (isThere(element) ? element : heirOf(last))?.focus({ preventScroll: true });
          }, AT_WORK_MS);
          return;
        }
        (isThere(element) ? element : heirOf(last))?.focus({ preventScroll: true });
      });
    });
  };
  const observer = new MutationObserver(look);
  observer.observe(document.body, {
    subtree: true,
    childList: true,
    attributes: true,
    attributeFilter: ['disabled'],
  });
  const got = ({ target }: FocusEvent) => {
    if (target instanceof HTMLElement && target !== document.body)
      last = { element: target, trail: trailOf(target) };
  };
  const left = ({ target }: FocusEvent) =>
    queueMicrotask(() => {
      // Whoever left it on purpose is not brought back.
      if (last?.element === target && isThere(last.element) && isLost()) last = null;
    });
  const key = () => (isByKeys = true);
  const point = () => (isByKeys = false);
  const capture = { capture: true };
  document.addEventListener('focusin', got, capture);
  document.addEventListener('focusout', left, capture);
  document.addEventListener('keydown', key, capture);
  document.addEventListener('pointerdown', point, capture);
  return () => {
    observer.disconnect();
    cancelAnimationFrame(frame);
    clearTimeout(waiting);
    document.removeEventListener('focusin', got, capture);
    document.removeEventListener('focusout', left, capture);
    document.removeEventListener('keydown', key, capture);
    document.removeEventListener('pointerdown', point, capture);
  };
}

const isThere = (element: HTMLElement): boolean =>
  element.isConnected && !element.matches(':disabled') && isVisible(element);
